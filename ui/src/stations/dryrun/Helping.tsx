import { Link } from 'wouter';

import type { Changer } from '../../api/changes';
import type { Outcome } from '../../api/twin';
import type { View } from '../../api/view';
import { Button } from '../../kit/Button';

const AT: Record<string, string> = { marks: 'Marks', print: 'Print', cut: 'Cut', edge: 'Edge' };

interface Props {
  jobId: number;
  view: View;
  change: Changer;
  outcome: Outcome;
  /** Run it once more, when a remedy was taken. */
  again: () => void;
}

/** What helps, best first, each tried on the twin already; one press takes it where the job can. */
export function Helping({ jobId, view, change, outcome, again }: Props) {
  if (!outcome.remedies.length) return null;
  const take = (steps: Outcome['remedies'][number]['steps']) =>
    steps.forEach((step, place) =>
      change(
        {
          label: step.label,
          changes: step.changes,
          ...(step.numbers.length ? { numbers: step.numbers } : {}),
        },
        place === steps.length - 1 ? again : undefined,
      ),
    );
  return (
    <section aria-label="What helps">
      <h2 className="mb-1 font-head text-base font-bold">What helps</h2>
      <p className="mb-1.5 text-sm text-soft">
        Each was tried on the twin: sheets all good, now {outcome.sheet_good} in 100, afterwards
      </p>
      <ul className="flex flex-col gap-2">
        {outcome.remedies.map((one) => (
          <li key={one.key} className="panel p-2.5">
            <div className="flex items-baseline justify-between gap-2">
              <b className="leading-tight">{one.text}</b>
              <span className="figure shrink-0 font-bold text-kingfisher">{one.sheet_good} in 100</span>
            </div>
            <div className="mt-1 flex items-center justify-between gap-2">
              <span className="text-sm text-soft">pieces good: {one.pieces_good} in 100</span>
              {one.steps.length > 0 && outcome.fresh ? (
                <Button look="act" onClick={() => take(one.steps)}>
                  Take it
                </Button>
              ) : (
                <Link
                  href={`/jobs/${jobId}/${one.at}`}
                  className="text-sm font-bold text-kingfisher underline"
                  aria-label={`To ${AT[one.at]}: ${one.text}`}
                >
                  To {AT[one.at]}
                </Link>
              )}
            </div>
          </li>
        ))}
      </ul>
      {outcome.then.length > 0 && (
        <>
          <h3 className="mt-2.5 mb-1 font-bold">After the first of these, also</h3>
          <ol className="flex flex-col gap-1">
            {outcome.then.map((one) => (
              <li key={one.key} className="flex items-baseline justify-between gap-2 text-sm">
                <Link href={`/jobs/${jobId}/${one.at}`} className="text-kingfisher underline">
                  {one.text}
                </Link>
                <span className="figure shrink-0 font-bold text-kingfisher">{one.sheet_good} in 100</span>
              </li>
            ))}
          </ol>
        </>
      )}
      {view.job.undo && <p className="mt-1.5 text-sm text-soft">Undo takes a remedy back.</p>}
    </section>
  );
}
