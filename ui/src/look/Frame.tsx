import type { ReactNode } from 'react';

import type { View } from '../api/view';
import { Button } from '../kit/Button';
import { asSentence } from '../kit/words';
import { Composing } from './compose/Composing';

interface Props {
  side: ReactNode;
  foot: ReactNode;
  children: ReactNode;
}

/** A station's screen: the work in the middle, figures at its foot, words at its side. */
export function Frame({ side, foot, children }: Props) {
  return (
    <>
      <div className="flex min-w-0 flex-1 flex-col">
        <div className="relative min-h-0 flex-1">{children}</div>
        <div className="min-h-[72px] border-t border-rule bg-tray px-4 py-2">{foot}</div>
      </div>
      {/* tabIndex: a scrolled column must be reachable by keyboard. */}
      <aside
        tabIndex={0}
        aria-label="About this station"
        className="relative flex w-[min(19.5rem,27vw)] shrink-0 flex-col gap-4 overflow-y-auto border-l border-rule p-3.5"
      >
        {side}
      </aside>
    </>
  );
}

/** What stands in the middle while there is nothing to draw. */
export function Empty({ view, add }: { view: View; add: () => void }) {
  return (
    <div className="absolute inset-0 flex items-center justify-center p-8">
      <div className="panel max-w-md p-6">
        {view.problem ? (
          <>
            <h2 className="mb-1 font-head text-lg font-bold text-rowan">This sheet cannot be planned</h2>
            <p>{asSentence(view.problem)}</p>
          </>
        ) : (
          <>
            <h2 className="mb-1 font-head text-lg font-bold">Begin with pictures</h2>
            <p className="mb-4">
              Drop PNG, JPEG, WebP, SVG or PDF files anywhere here, several at once. Each becomes a design
              with its own size, border and count.
            </p>
            <div className="flex flex-wrap gap-3">
              <Button look="main" onClick={add} hotkey="A">
                Add art
              </Button>
              <Composing view={view} />
            </div>
          </>
        )}
      </div>
    </div>
  );
}

/** A figure with its name above. */
export function Figure({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="shrink-0">
      <div className="text-sm text-soft">{name}</div>
      <div className="figure text-base font-bold whitespace-nowrap">{children}</div>
    </div>
  );
}
