import { useState } from 'react';

import type { Changer } from '../../api/changes';
import { type DryRun, type FaultKey, useBeginDryRun, usePractise, useStopDryRun } from '../../api/twin';
import type { View } from '../../api/view';
import { Button } from '../../kit/Button';
import { Fold } from '../../kit/Fold';
import { Causes } from './Causes';
import { FaultsFold } from './FaultsFold';
import { HowFold } from './HowFold';
import { Helping } from './Helping';

interface Props {
  jobId: number;
  view: View;
  change: Changer;
  told: DryRun | undefined;
}

/** Press it, see what came of it, and what would help. */
export function DryRunPanel({ jobId, view, change, told }: Props) {
  const begin = useBeginDryRun(jobId);
  const stop = useStopDryRun(jobId);
  const practise = usePractise(jobId);
  const outcome = told?.outcome ?? null;
  const [faults, setFaults] = useState<FaultKey[] | null>(null);
  const [runs, setRuns] = useState<number | null>(null);
  const [unsure, setUnsure] = useState<boolean | null>(null);
  const asked = told && {
    ...told.asked,
    runs: runs ?? told.asked.runs,
    unsure: unsure ?? told.asked.unsure,
    faults: faults ?? told.asked.faults ?? [],
  };
  const running = told?.running ?? false;
  const run = () => asked && begin.mutate(asked);
  return (
    <>
      <section aria-label="Dry run" className="flex flex-col gap-2">
        <h2 className="font-head text-base font-bold">Try it before you use up a sheet</h2>
        {told?.practice && (
          <p className="rounded-[6px] border border-bracken px-2.5 py-1.5 text-sm">
            <b>Practice bench.</b> These machines are simulated, with errors of their own; nothing found here
            is used for a real one.
          </p>
        )}
        {running ? (
          <div className="flex items-center gap-3" role="status">
            <div className="min-w-0 flex-1">
              <div className="text-sm">{told?.doing} …</div>
              <div className="mt-1 h-2 overflow-hidden rounded-full bg-rule">
                <div
                  className="h-full bg-kingfisher"
                  style={{ width: `${Math.max(4, (told?.share ?? 0) * 100)}%` }}
                />
              </div>
            </div>
            <Button onClick={() => stop.mutate()}>Stop</Button>
          </div>
        ) : (
          <Button look="main" onClick={run} disabled={!asked}>
            {outcome ? 'Do a dry run again' : 'Do a dry run'}
          </Button>
        )}
        {told?.problem && <p className="text-sm text-rowan">{told.problem}</p>}
        {!outcome && !running && (
          <p className="text-sm text-soft">
            A simulated printer, sensor and cutter take the very files you would use. You see the sheet you
            would get, which pieces would be spoiled, and why. Nothing is used up.
          </p>
        )}
        {outcome && !running && (
          <>
            <p>{outcome.verdict}</p>
            {outcome.faults.length > 0 && (
              <p className="text-sm text-soft">With the faults that are switched on.</p>
            )}
            {!outcome.fresh && (
              <p className="text-sm text-bracken">
                <b>The job has changed since.</b> Run it again to see what that did.
              </p>
            )}
          </>
        )}
        {told && told.cautions.length > 0 && (
          <div className="text-sm">
            <h3 className="font-bold">When it is done for real</h3>
            <ul className="list-disc pl-5">
              {told.cautions.map((one) => (
                <li key={one}>{one}</li>
              ))}
            </ul>
          </div>
        )}
      </section>
      {outcome && !running && (
        <>
          <Causes outcome={outcome} />
          <Helping jobId={jobId} view={view} change={change} outcome={outcome} again={run} />
        </>
      )}
      {asked && (
        <>
          <HowFold runs={asked.runs} setRuns={setRuns} unsure={asked.unsure} setUnsure={setUnsure} />
          <FaultsFold faults={asked.faults} choose={setFaults} />
          {!told.practice && (
            <Fold title="Practice bench" summary="simulated machines">
              <p className="text-sm text-soft">
                A simulated printer and cutter with errors of their own, to find by calibration, ladder and
                proof, without using up a sheet. The job is made on them until you choose others; Undo takes
                it back.
              </p>
              <Button onClick={() => practise.mutate()} className="self-start">
                Make this job on the practice bench
              </Button>
            </Fold>
          )}
        </>
      )}
    </>
  );
}
