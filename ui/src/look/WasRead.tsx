/** Whether the marks were read, in one press. */
import type { Schemas } from '../api/client';
import { Button } from '../kit/Button';

export type WasReadValue = Schemas['MarksSeen'] | null;

const ANSWERS: readonly (readonly [string, Schemas['MarksSeen']])[] = [
  ['at once', { read: true, tries: 1 }],
  ['at a later try', { read: true, tries: 2 }],
  ['not at all', { read: false, tries: 1 }],
];

interface Props {
  value: WasReadValue;
  onChange: (value: WasReadValue) => void;
}

export function WasRead({ value, onChange }: Props) {
  return (
    <div
      role="group"
      aria-label="Were the marks read?"
      className="flex flex-wrap items-center gap-1.5 text-sm"
    >
      <span>Marks read</span>
      {ANSWERS.map(([words, answer]) => {
        const chosen = value?.read === answer.read && value.tries === answer.tries;
        return (
          <Button
            key={words}
            look={chosen ? 'act' : 'plain'}
            className="py-1"
            aria-pressed={chosen}
            onClick={() => onChange(chosen ? null : answer)}
          >
            {words}
          </Button>
        );
      })}
    </div>
  );
}
