import type { ReactNode } from 'react';
import { Link } from 'wouter';

interface Props {
  back: { to: string; words: string };
  children: ReactNode;
}

/** Another table than the one where real sheets are made: a cooler ground, and a tape across its corner. */
export function PracticeTable({ back, children }: Props) {
  return (
    <div className="relative min-h-full overflow-hidden bg-practice">
      <span
        aria-hidden
        className="absolute top-6 -right-12 w-48 rotate-45 border-y border-rule bg-paper py-0.5 text-center text-sm font-bold text-bracken max-[40rem]:hidden"
      >
        practice
      </span>
      <main className="mx-auto flex max-w-6xl flex-col gap-4 px-6 py-5 max-[40rem]:px-4">
        <header className="flex flex-wrap items-center gap-5">
          <Link href={back.to} className="font-bold text-kingfisher underline">
            {back.words}
          </Link>
          <span className="text-sm text-soft">Nothing here is real: no paper, no ink, no records.</span>
        </header>
        {children}
      </main>
    </div>
  );
}
