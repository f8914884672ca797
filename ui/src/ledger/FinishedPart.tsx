/** Finished pieces on hand: made, given away, sold, each counted with one press. */
import { useState } from 'react';

import { useCountFinished, useFinished } from '../api/finished';
import { Button } from '../kit/Button';
import { CountField } from '../kit/CountField';
import { WordsField } from '../kit/WordsField';
import { asSentence } from '../kit/words';

const MOVES = [
  ['made', 'made'],
  ['given', 'given away'],
  ['sold', 'sold'],
] as const;

export function FinishedPart() {
  const finished = useFinished().data ?? [];
  const count = useCountFinished();
  const [name, setName] = useState('');
  const [many, setMany] = useState(1);
  return (
    <section aria-label="Finished, on hand" className="flex flex-col gap-2">
      <h2 className="font-head text-lg font-bold">Finished, on hand</h2>
      {finished.length === 0 && (
        <p className="text-sm text-soft">If you like, count what is finished and what leaves the house.</p>
      )}
      <ul className="flex flex-col">
        {finished.map((one) => (
          <li
            key={one.name}
            className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 border-t border-rule py-1.5"
          >
            <span>
              <b>{one.name}</b>{' '}
              <span className="text-sm text-soft">
                {one.made} made, {one.given} given away, {one.sold} sold
              </span>
            </span>
            <span className="flex items-center gap-1.5">
              <b className="figure mr-2">{one.left} left</b>
              {MOVES.map(([move, words]) => (
                <Button
                  key={move}
                  aria-label={`One of ${one.name} was ${words}`}
                  onClick={() => count.mutate({ name: one.name, move, count: 1 })}
                >
                  {`+1 ${words}`}
                </Button>
              ))}
            </span>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap items-end gap-3 text-sm">
        <WordsField label="What was made" hint="pendant" most={80} value={name} onChange={setName} />
        <span className="flex flex-col gap-0.5">
          How many
          <CountField label="How many were made" value={many} onChange={setMany} />
        </span>
        <Button
          disabled={!name.trim() || count.isPending}
          onClick={() =>
            count.mutate({ name: name.trim(), move: 'made', count: many }, { onSuccess: () => setName('') })
          }
        >
          Count them in
        </Button>
      </div>
      {count.error && (
        <p role="alert" className="text-rowan">
          {asSentence(count.error.message)}
        </p>
      )}
    </section>
  );
}
