import type { Plan } from '../api/client';
import { useJobAction } from '../api/hooks';
import { Findings } from '../app/Findings';
import { Button } from '../kit/Button';
import { showLength, useUnit } from '../kit/units';
import { SheetRow, useSheet } from '../sheet-view/SheetRow';
import { SheetView } from '../sheet-view/SheetView';
import { Empty, Figure, Frame } from './Frame';
import type { StationProps } from './index';

/** How many fit, where each one goes. */
export function SheetStation({ view, change, add }: StationProps) {
  const plan = view.plan;
  const items = view.job.document.items ?? [];
  return (
    <Frame
      side={<Findings findings={view.findings} items={items} jobId={view.job.id} change={change} />}
      foot={plan && plan.items.length > 0 ? <SheetFigures plan={plan} /> : null}
    >
      {plan && plan.items.length > 0 ? (
        <Table plan={plan} jobId={view.job.id} />
      ) : (
        <Empty view={view} add={add} />
      )}
    </Frame>
  );
}

function Table({ plan, jobId }: { plan: Plan; jobId: number }) {
  const sheet = useSheet(plan);
  return (
    <div className="absolute inset-0 flex">
      <div className="relative flex-1">
        <SheetView jobId={jobId} plan={plan} sheet={sheet} mode="plan" />
      </div>
      <Search plan={plan} jobId={jobId} />
    </div>
  );
}

const STATES = {
  searching: 'Looking for a tighter layout',
  done: 'Packed',
  stopped: 'Stopped; the best so far is kept',
} as const;

function Search({ plan, jobId }: { plan: Plan; jobId: number }) {
  const action = useJobAction(jobId);
  const { state, seconds_left } = plan.packing;
  const placed = plan.sheets.reduce((sum, sheet) => sum + sheet.placements.length, 0);
  const wanted = plan.items.reduce((sum, item) => sum + item.wanted, 0);
  return (
    <div className="flex w-[min(10rem,14vw)] shrink-0 flex-col gap-2.5 overflow-y-auto p-3">
      <p className="text-sm" role="status" data-testid="packing-state">
        {STATES[state]}
      </p>
      {state === 'searching' ? (
        <>
          {/* The bar empties by itself; only its start comes from the server. */}
          <div className="h-1.5 overflow-hidden rounded bg-rule" aria-hidden>
            <div
              key={plan.packing.version}
              className="h-full origin-left bg-kingfisher"
              style={{
                animation: `drain ${seconds_left}s linear forwards`,
                width: `${(seconds_left / 20) * 100}%`,
              }}
            />
          </div>
          <Button onClick={() => action.mutate('stop')} hotkey="S">
            Stop
          </Button>
        </>
      ) : (
        <Button onClick={() => action.mutate('pack')} hotkey="P">
          Pack again
        </Button>
      )}
      <dl className="mt-2 flex flex-col gap-2.5">
        <Fact name="placed">
          {placed} of {wanted}
        </Fact>
        <Fact name="a sheet holds at most">{plan.pieces_at_most}</Fact>
        <Fact name="in plain rows it takes">
          {plan.row_sheets} sheet{plan.row_sheets === 1 ? '' : 's'}
        </Fact>
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
    </div>
  );
}

function Fact({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <div>
      <dt className="text-sm text-soft">{name}</dt>
      <dd className="figure font-bold">{children}</dd>
    </div>
  );
}

function SheetFigures({ plan }: { plan: Plan }) {
  const unit = useUnit((state) => state.unit);
  const number = useSheet(plan);
  const sheet = plan.sheets[number];
  return (
    <div className="flex items-center gap-7">
      <SheetRow plan={plan} />
      {sheet && (
        <>
          <Figure name={`on sheet ${number + 1}`}>{sheet.placements.length} pieces</Figure>
          <Figure name="used of live area">{Math.round(sheet.used * 100)} %</Figure>
          <Figure name="nearest neighbour">
            {sheet.nearest_mm === null ? '–' : showLength(sheet.nearest_mm, unit)}
          </Figure>
          <Figure name="cut length">{(sheet.cut_length_mm / 1000).toFixed(1)} m</Figure>
        </>
      )}
    </div>
  );
}
