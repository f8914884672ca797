import { Choose } from '../../kit/Choose';
import { Fold } from '../../kit/Fold';

const RUNS = [
  [1, 'once, to see'],
  [200, '200 times, to know'],
  [1000, '1000 times, to be sure'],
] as const;

interface Props {
  runs: number;
  setRuns: (runs: number) => void;
  unsure: boolean;
  setUnsure: (unsure: boolean) => void;
}

/** How often it is run, and what is left open. */
export function HowFold({ runs, setRuns, unsure, setUnsure }: Props) {
  const name = RUNS.find(([count]) => count === runs)?.[1] ?? `${runs} times`;
  return (
    <Fold title="How it is run" summary={name}>
      <div className="flex items-center justify-between gap-2">
        <span>Run it</span>
        <Choose
          name={name}
          label="How often"
          choices={RUNS.map(([count, words]) => ({
            words,
            do: () => setRuns(count),
            chosen: count === runs,
          }))}
        />
      </div>
      <label className="flex cursor-pointer gap-2.5">
        <input
          type="checkbox"
          className="mt-1 size-4 shrink-0 accent-kingfisher"
          checked={unsure}
          onChange={(event) => setUnsure(event.target.checked)}
        />
        <span>
          Include what is not known yet
          <span className="block text-sm text-soft">
            Each run assumes a slightly different hardness for the stock, within what is known of it. Off:
            always the likeliest one.
          </span>
        </span>
      </label>
    </Fold>
  );
}
