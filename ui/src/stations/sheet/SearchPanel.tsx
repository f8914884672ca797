import { useEffect, useState } from 'react';

import { type Figures, type Plan, useFigures } from '../../api/view';
import { useIsStopping, useJobAction } from '../../api/jobs';
import { Button } from '../../kit/Button';
import { showSize, useUnit } from '../../kit/units';

const STATES = {
  searching: 'Looking for a tighter layout',
  done: 'Packed',
  stopped: 'Stopped; the best so far is kept',
  interrupted: 'Vamper was closed while it packed',
  waiting: 'In plain rows so far',
  queued: 'Other jobs are being packed first; plain rows meanwhile',
  broken: 'The search broke down; the best so far is kept. Look longer to try once more',
} as const;

interface Props {
  plan: Plan;
  jobId: number;
  children?: React.ReactNode;
}

const sheets = (count: number) => `${count} sheet${count === 1 ? '' : 's'}`;

/** How the packing stands, how good it is, and what can be asked of it. */
export function SearchPanel({ plan, jobId, children }: Props) {
  const unit = useUnit((state) => state.unit);
  const action = useJobAction(jobId);
  const stopping = useIsStopping(jobId);
  const { state, seconds_left, seconds, better_ago_s, version, held, time_limited } = plan.packing;
  const placed = plan.sheets.reduce((sum, sheet) => sum + sheet.placements.length, 0);
  const wanted = plan.items.reduce((sum, item) => sum + item.wanted, 0);
  const figures = useFigures(jobId, plan);
  const isFewest = plan.unplaced.length === 0 && plan.sheets.length <= (figures?.sheets_at_least ?? 0);
  const canGain = time_limited && !isFewest;
  return (
    <div className="flex w-[min(11.5rem,15vw)] shrink-0 flex-col gap-2.5 overflow-y-auto p-3">
      <p className="text-sm" role="status" data-testid="packing-state">
        {held > 0 && state === 'done' ? 'As you laid it' : STATES[state]}
        {state === 'interrupted' &&
          `; its best layout so far was kept: ${placed} of ${wanted} pieces on ${sheets(plan.sheets.length)}.`}
      </p>
      {state === 'searching' || state === 'queued' ? (
        <>
          {/* The bar empties by itself; only its start comes from the server. */}
          <div className="h-1.5 overflow-hidden rounded bg-rule" aria-hidden>
            <div
              key={version}
              className="h-full origin-left bg-kingfisher"
              style={{
                animation: `drain ${seconds_left}s linear forwards`,
                width: `${(seconds_left / seconds) * 100}%`,
              }}
            />
          </div>
          {state === 'searching' && <BetterAgo key={version} ago={better_ago_s} />}
          <Button onClick={() => action.mutate('stop')} hotkey="S" disabled={stopping}>
            {stopping ? 'Stopping …' : 'Stop'}
          </Button>
        </>
      ) : (
        <>
          <Button onClick={() => action.mutate('pack')} hotkey="P">
            {held ? 'Pack the rest again' : canGain || state === 'broken' ? 'Look longer' : 'Pack again'}
          </Button>
          {held > 0 && (
            <Button look="bare" className="-mt-1.5 px-1" onClick={() => action.mutate('pack-everything')}>
              Pack everything again
            </Button>
          )}
        </>
      )}
      <dl className="mt-1 flex flex-col gap-2">
        <Fact name="placed">
          {placed - plan.extra_pieces} of {wanted}
          {plan.extra_pieces > 0 && ` + ${plan.extra_pieces}`}
        </Fact>
        <Fact name="a sheet holds at most">{figures?.pieces_at_most ?? '…'}</Fact>
        <Fact name="sheets at least">{figures?.sheets_at_least ?? '…'}</Fact>
        <Fact name="against rows of boxes">
          {figures ? against(figures, plan.sheets.length, placed) : '…'}
        </Fact>
        {figures && figures.offcut.width_mm > 0 && (
          <Fact name="free rectangle on the last">
            {showSize(figures.offcut.width_mm, figures.offcut.height_mm, unit, 0)}
          </Fact>
        )}
      </dl>
      {plan.unplaced.length > 0 && (
        <p className="text-sm text-rowan">
          Not placed:{' '}
          {plan.unplaced
            .map(
              (one) => `${one.quantity} ${plan.items.find((item) => item.number === one.item_number)?.name}`,
            )
            .join(', ')}
        </p>
      )}
      {children}
    </div>
  );
}

/** How long the search has found nothing better, counted on between two answers. */
function BetterAgo({ ago }: { ago: number }) {
  const [since, setSince] = useState(0);
  useEffect(() => {
    const ticking = setInterval(() => setSince((before) => before + 1), 1000);
    return () => clearInterval(ticking);
  }, []);
  const seconds = Math.round(ago + since);
  return (
    <p className="text-sm text-soft">
      {seconds < 2 ? 'Better just now' : `Last better layout ${seconds} s ago`}
    </p>
  );
}

function against(figures: Figures, laid: number, placed: number): string {
  const saved = figures.row_sheets - laid;
  const more = placed - figures.row_pieces;
  if (saved > 0) return `${sheets(saved)} saved`;
  return more > 0 ? `${more} more piece${more === 1 ? '' : 's'}` : 'no more, no less';
}

function Fact({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <div>
      <dt className="text-sm leading-tight text-soft">{name}</dt>
      <dd className="figure font-bold">{children}</dd>
    </div>
  );
}
