import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';

import type { Schemas } from '../api/client';
import type { View } from '../api/view';
import type { Changer } from '../api/changes';
import { PhrasePanel } from './PhrasePanel';

const PUNCTUATION = /^[,.]/;

/** Whether the text before a phrase gave its punctuation away to the phrase before it. */
const withoutFirst = (view: View, index: number) =>
  PUNCTUATION.test(view.brief[index]?.text ?? '') && !!view.brief[index - 1]?.key;

interface Props {
  view: View;
  change: Changer;
}

/** The job as one sentence; every underlined phrase is changed where it stands. */
export function Brief({ view, change }: Props) {
  return (
    <section
      aria-label="The job in a sentence"
      className="border-y border-rule bg-paper px-5 py-2.5 text-[1.0625rem] leading-[1.6]"
      data-testid="brief"
    >
      {view.brief.map((phrase, index) => {
        if (!phrase.key)
          return <span key={index}>{withoutFirst(view, index) ? phrase.text.slice(1) : phrase.text}</span>;
        const next = view.brief[index + 1]?.text ?? '';
        return (
          // A comma never begins a line.
          <span key={phrase.key} className="whitespace-nowrap">
            <EditablePhrase phrase={phrase} view={view} change={change} />
            {PUNCTUATION.test(next) && next[0]}
          </span>
        );
      })}
    </section>
  );
}

function EditablePhrase({ phrase, view, change }: Props & { phrase: Schemas['Phrase'] }) {
  return (
    <Popover className="inline">
      <PopoverButton
        className="cursor-pointer border-b-2 border-dotted border-kingfisher text-left font-bold text-kingfisher"
        data-phrase={phrase.key}
      >
        {phrase.text}
      </PopoverButton>
      <PopoverPanel
        role="dialog"
        aria-label={`Change: ${phrase.text}`}
        anchor={{ to: 'bottom start', gap: 8, padding: 12 }}
        className="panel z-20 flex max-h-[70vh] w-[25rem] flex-col gap-3 overflow-y-auto p-3 shadow-card"
      >
        {({ close }) => (
          <PhrasePanel phrase={phrase.key ?? ''} view={view} change={change} close={() => close()} />
        )}
      </PopoverPanel>
    </Popover>
  );
}
