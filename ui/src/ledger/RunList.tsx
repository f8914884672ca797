import { useState } from 'react';
import { Link, useLocation, useSearch } from 'wouter';

import {
  type Ledger,
  type LoggedRun,
  useKeepRest,
  useLookLater,
  useMakeAgain,
  useRemoveRun,
} from '../api/ledger';
import { useRange } from '../api/jobs';
import { useNotices } from '../api/notices';
import { Bead } from '../kit/Bead';
import { Button } from '../kit/Button';
import { CountField } from '../kit/CountField';

const STATES = { good: 'settled', spoiled: 'stop', 'not-run': 'not-yet' } as const;
const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });

/** Every run, the newest first. */
export function RunList({ ledger }: { ledger: Ledger }) {
  const due = ledger.runs.filter((run) => ledger.due.includes(run.id));
  const [words, setWords] = useState(new URLSearchParams(useSearch()).get('find') ?? '');
  const wanted = words.toLowerCase();
  const shown = ledger.runs.filter((run) => searched(run).includes(wanted));
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
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h2 className="font-head text-lg font-bold">Runs</h2>
        <label className="flex items-center gap-2 text-sm">
          Find
          <input className="field w-48" value={words} onChange={(event) => setWords(event.target.value)} />
        </label>
      </div>
      <ul className="flex flex-col">
        {shown.map((run) => (
          <Row key={run.id} run={run} />
        ))}
      </ul>
      {shown.length === 0 && <p className="text-sm text-soft">No run has “{words}” in it.</p>}
      {ledger.total > ledger.runs.length && (
        <p className="text-sm text-soft">
          The newest {ledger.runs.length} of {ledger.total}; all of them are in the table.
        </p>
      )}
    </section>
  );
}

const searched = (run: LoggedRun) =>
  [run.title, run.customer, run.stock, run.cutter, run.lot, run.spoilt, run.note, run.cause]
    .join(' ')
    .toLowerCase();

function Row({ run }: { run: LoggedRun }) {
  return (
    <li className="grid grid-cols-[1.25rem_minmax(0,1fr)_auto] gap-x-2 border-t border-rule py-2">
      <span className="pt-1">
        <Bead state={STATES[run.came_out]} label={run.came_out_words} />
      </span>
      <div className="min-w-0">
        <b className="leading-tight">{run.title}</b>
        <span className="text-soft">
          , sheet {run.sheet}
          {run.sheets > 1 ? `, ${run.sheets} times` : ''}
          {run.customer && `, for ${run.customer}`}
        </span>
        {run.simulated && <span className="ml-2 text-sm text-bracken">simulated</span>}
        <p className="text-sm">
          {run.stock}
          {run.lot && `, lot ${run.lot}`}; {run.cutter}
          {run.settings && <span className="figure">; {run.settings}</span>}
        </p>
        {run.spoilt && <p className="text-sm text-rowan">{run.spoilt}</p>}
        {run.cause && <p className="text-sm">It was this: {run.cause}</p>}
        {run.note && <p className="text-sm text-soft">{run.note}</p>}
        <span className="flex flex-wrap items-center gap-x-4 gap-y-1 text-sm">
          {run.came_out === 'spoiled' && !run.cause && (
            <Link href={`/wrong?run=${run.id}`} className="font-bold text-kingfisher underline">
              What went wrong?
            </Link>
          )}
          {run.job_id !== null && (
            <Link href={`/jobs/${run.job_id}`} className="text-kingfisher underline">
              Open the job
            </Link>
          )}
          {run.again && <Again run={run} />}
          <Remove run={run} />
        </span>
      </div>
      <div className="text-right text-sm">
        <span className="figure">
          {run.good} of {run.pieces}
        </span>
        <span className="block text-soft">{day.format(new Date(run.made_at))}</span>
      </div>
    </li>
  );
}

/** What can be done with a run whose plan is kept: make it once more, keep what is left of its sheet. */
function Again({ run }: { run: LoggedRun }) {
  const again = useMakeAgain();
  const rest = useKeepRest();
  const most = useRange('copies').max;
  const tell = useNotices((state) => state.tell);
  const [, go] = useLocation();
  const [open, setOpen] = useState(false);
  const [sheets, setSheets] = useState(run.sheets);
  if (!open)
    return (
      <>
        <button type="button" className="text-kingfisher underline" onClick={() => setOpen(true)}>
          Make it again
        </button>
        {run.came_out !== 'not-run' && (
          <button
            type="button"
            className="text-kingfisher underline disabled:opacity-60"
            disabled={rest.isPending || rest.isSuccess}
            onClick={() =>
              rest.mutate(
                { run: run.id, name: `Rest of ${run.title}, sheet ${run.sheet}` },
                { onSuccess: () => tell('What is left of this sheet is on the shelf, as an offcut.') },
              )
            }
          >
            {rest.isSuccess ? 'Its rest is kept' : 'Keep the rest of the sheet'}
          </button>
        )}
      </>
    );
  return (
    <span className="flex flex-wrap items-center gap-2">
      {run.settings_held ? 'exactly as it was, on' : 'as it was, but with what was learnt since, on'}
      <CountField label="Sheets" value={sheets} most={most} onChange={setSheets} />
      {sheets === 1 ? 'sheet' : 'sheets'}
      <Button
        look="act"
        disabled={again.isPending}
        onClick={() =>
          again.mutate({ run: run.id, sheets }, { onSuccess: (made) => go(`/jobs/${made.id}/sheet`) })
        }
      >
        Make it again
      </Button>
      <Button look="bare" onClick={() => setOpen(false)}>
        Leave it
      </Button>
    </span>
  );
}

/** A run that was logged by mistake, or came in with the wrong file, is taken back whole. */
function Remove({ run }: { run: LoggedRun }) {
  const remove = useRemoveRun();
  const [sure, setSure] = useState(false);
  if (!sure)
    return (
      <button type="button" className="text-kingfisher underline" onClick={() => setSure(true)}>
        Remove
      </button>
    );
  return (
    <span className="flex flex-wrap items-center gap-2" role="group" aria-label={`Remove ${run.title}`}>
      What it taught of force, blade, mat and misses goes with it
      {run.simulated ? '.' : ', and its sheets are on the shelf again.'}
      <Button look="act" disabled={remove.isPending} onClick={() => remove.mutate(run.id)}>
        Remove this run
      </Button>
      <Button look="bare" onClick={() => setSure(false)}>
        Leave it
      </Button>
    </span>
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
              <b>{run.title}</b>, {one.words}: did it hold?
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
