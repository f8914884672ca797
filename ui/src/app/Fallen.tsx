/** What is shown instead of a page that is not there, or that broke: a sentence, and a way back. */
import { Component, type ReactNode } from 'react';
import { Link } from 'wouter';

import { Button } from '../kit/Button';
import { asSentence } from '../kit/words';
import { Logo } from './Logo';

interface ApartProps {
  title: string;
  words: string;
  again?: () => void;
}

/** A page of its own that says what is wrong. */
export function Apart({ title, words, again }: ApartProps) {
  return (
    <main className="mx-auto max-w-xl p-10">
      <Logo />
      <h1 className="mt-6 font-head text-xl font-bold">{title}</h1>
      <p className="panel mt-3 p-4" role="alert">
        {asSentence(words)}
      </p>
      <p className="mt-4 flex items-center gap-4">
        {again && (
          <Button look="act" onClick={again}>
            Try again
          </Button>
        )}
        <Link href="/" className="font-bold text-kingfisher underline">
          To all jobs
        </Link>
      </p>
    </main>
  );
}

export const NothingHere = () => (
  <Apart title="There is no such page" words="The address may be mistyped, or be of another version." />
);

/** Holds what breaks inside it: the rest of the page stays, and what was typed elsewhere with it. */
export class Fallen extends Component<{ children: ReactNode }, { error: Error | null }> {
  override state: { error: Error | null } = { error: null };

  static getDerivedStateFromError(error: Error) {
    return { error };
  }

  override render() {
    const { error } = this.state;
    if (!error) return this.props.children;
    return (
      <Apart
        title="This part broke"
        words="What is saved is safe. Try it again; if it breaks again, load the page anew."
        again={() => this.setState({ error: null })}
      />
    );
  }
}
