import { useRange } from '../../api/jobs';
import { useState } from 'react';

import type { Plan } from '../../api/view';
import { useScaling, useStartScaling, useStopScaling } from '../../api/sheets';
import { Button } from '../../kit/Button';
import { CountField } from '../../kit/CountField';
import { Window } from '../../kit/Window';
import { asSentence } from '../../kit/words';

interface Props {
  jobId: number;
  plan: Plan;
  open: boolean;
  close: () => void;
}

const percent = (scale: number | null) => (scale === null ? '–' : `${Math.round(scale * 100)} %`);

/** The largest common scale at which everything fits on the sheets wanted. */
export function ScaleWindow({ jobId, plan, open, close }: Props) {
  const [sheets, setSheets] = useState(Math.max(1, plan.sheets.length));
  const told = useScaling(jobId, open).data;
  const start = useStartScaling(jobId);
  const stop = useStopScaling(jobId);
  const scaling = useScaling(jobId, open);
  const working = told?.state === 'working';
  return (
    <Window title="Scale to fill" open={open} close={close}>
      <p className="mb-4">
        All designs grow or shrink together, borders as they are, to the largest size at which every piece
        finds a place. It takes up to half a minute; the step can be undone.
      </p>
      <div className="flex flex-wrap items-center gap-3">
        <span>
          All {plan.items.reduce((sum, item) => sum + item.wanted, 0)} pieces on{' '}
          <CountField
            label="Sheets to fill"
            value={sheets}
            most={useRange('scale.sheets').max}
            onChange={setSheets}
          />{' '}
          {sheets === 1 ? 'sheet' : 'sheets'}
        </span>
        {working ? (
          <Button onClick={() => stop.mutate(undefined)}>Stop, take what fits</Button>
        ) : (
          <Button
            look="main"
            disabled={start.isPending}
            onClick={() => start.mutate(sheets, { onSuccess: () => void scaling.refetch() })}
          >
            Find the size
          </Button>
        )}
      </div>
      {told && (
        <div className="mt-4" role="status">
          {working && (
            <div className="mb-2 h-1.5 overflow-hidden rounded bg-rule" aria-hidden>
              <div className="h-full bg-kingfisher" style={{ width: `${told.share * 100}%` }} />
            </div>
          )}
          {working && (
            <p>
              Trying {percent(told.trying)} of the present size; fits so far: <b>{percent(told.fits)}</b>
            </p>
          )}
          {told.state === 'done' && (
            <p>
              Done: everything is now <b>{percent(told.fits)}</b> of the size it had, on {told.sheets}{' '}
              {told.sheets === 1 ? 'sheet' : 'sheets'}.
            </p>
          )}
          {told.state === 'failed' && <p className="text-rowan">{asSentence(told.problem)}</p>}
          {told.state === 'stopped' && <p>Stopped before any size was found to fit; nothing was changed.</p>}
        </div>
      )}
    </Window>
  );
}
