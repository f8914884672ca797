import { Link } from 'wouter';

import { type Ledger, type LoggedRun, useLookLater } from '../api/ledger';
import { Bead } from '../kit/Bead';
import { Button } from '../kit/Button';

const STATES = { 'all good': 'settled', 'some spoiled': 'stop', 'not run': 'not yet' } as const;

/** Every run, the newest first. */
export function RunList({ ledger }: { ledger: Ledger }) {
  const due = ledger.runs.filter((run) => ledger.due.includes(run.id));
  return (
    <section aria-label="Runs" className="flex min-w-0 flex-col gap-2">
      {due.length > 0 && (
        <div className="panel flex flex-col gap-2 p-3" role="group" aria-label="To look at again">
          <h2 className="font-bold">To look at again</h2>
          {due.map((run) => (
            <Later key={run.id} run={run} />
          ))}
        </div>
      )}
      <h2 className="font-head text-lg font-bold">Runs</h2>
      <ul className="flex flex-col">
        {ledger.runs.map((run) => (
          <Row key={run.id} run={run} />
        ))}
      </ul>
      {ledger.total > ledger.runs.length && (
        <p className="text-sm text-soft">
          The newest {ledger.runs.length} of {ledger.total}; all of them are in the table.
        </p>
      )}
    </section>
  );
}

function Row({ run }: { run: LoggedRun }) {
  const day = new Date(run.made_at).toLocaleDateString('en-GB', {
    day: 'numeric',
    month: 'short',
    year: 'numeric',
  });
  return (
    <li className="grid grid-cols-[1.25rem_minmax(0,1fr)_auto] gap-x-2 border-t border-rule py-2">
      <span className="pt-1">
        <Bead state={STATES[run.came_out]} label={run.came_out} />
      </span>
      <div className="min-w-0">
        <b className="leading-tight">{run.title}</b>
        <span className="text-soft">
          , sheet {run.sheet}
          {run.sheets > 1 ? `, ${run.sheets} times` : ''}
        </span>
        {run.simulated && <span className="ml-2 text-sm text-bracken">simulated</span>}
        <p className="text-sm">
          {run.stock}; {run.cutter}
          {run.settings && <span className="figure">; {run.settings}</span>}
        </p>
        {run.spoilt && <p className="text-sm text-rowan">{run.spoilt}</p>}
        {run.cause && <p className="text-sm">It was this: {run.cause}</p>}
        {run.note && <p className="text-sm text-soft">{run.note}</p>}
        <span className="flex flex-wrap gap-x-4 text-sm">
          {run.came_out === 'some spoiled' && !run.cause && (
            <Link href={`/wrong?run=${run.id}`} className="font-bold text-kingfisher underline">
              What went wrong?
            </Link>
          )}
          {run.job_id !== null && (
            <Link href={`/jobs/${run.job_id}`} className="text-kingfisher underline">
              Open the job
            </Link>
          )}
        </span>
      </div>
      <div className="text-right text-sm">
        <span className="figure">
          {run.good} of {run.pieces}
        </span>
        <span className="block text-soft">{day}</span>
      </div>
    </li>
  );
}

function Later({ run }: { run: LoggedRun }) {
  const look = useLookLater();
  return (
    <>
      {run.later
        .filter((one) => one.is_due)
        .map((one) => (
          <div key={one.kind} className="flex flex-wrap items-center gap-x-3 gap-y-1 text-sm">
            <span>
              <b>{run.title}</b>, {one.kind}: did it hold?
            </span>
            <Button onClick={() => look.mutate({ run: run.id, kind: one.kind, held: true })}>It held</Button>
            <Button onClick={() => look.mutate({ run: run.id, kind: one.kind, held: false })}>
              It did not
            </Button>
          </div>
        ))}
    </>
  );
}
