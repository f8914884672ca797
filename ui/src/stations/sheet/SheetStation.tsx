import { useCallback } from 'react';

import { type Plan, type View, useFigures } from '../../api/view';
import { type Deed, useHand, useTakeUp } from '../../api/hand';
import { type Changer } from '../../api/changes';
import { useCatalog } from '../../api/jobs';
import { useNotices } from '../../api/notices';
import { Fold } from '../../kit/Fold';
import { Findings } from '../../look/Findings';
import { LargestPicture } from '../../look/LargestPicture';
import { useLook } from '../../look/shown';
import { useKeys } from '../../kit/shortcuts';
import { showLength, showWay, useUnit } from '../../kit/units';
import { SheetRow, useSheet } from '../../look/SheetRow';
import { SheetView } from '../../look/SheetView';
import { Empty, Figure, Frame } from '../../look/Frame';
import type { StationProps } from '../../look/station';
import { CostFold } from './CostFold';
import { DesignsFold } from './DesignsFold';
import { HandBar } from './HandBar';
import { HandPieces } from './HandPieces';
import { DrawnBound, LiveAreaFold } from './LiveBounds';
import { SearchPanel } from './SearchPanel';
import { SheetTools } from './SheetTools';

/** How many fit, where each one goes. */
export default function SheetStation({ view, change, add }: StationProps) {
  const plan = view.plan;
  const items = view.job.document.items ?? [];
  const there = plan && plan.items.length > 0;
  const unit = useUnit((state) => state.unit);
  return (
    <Frame
      side={
        <>
          {there && plan.by_program && plan.granted.length > 0 && (
            <Fold
              title="Largest picture"
              summary={`${showLength(plan.live_size.width_mm, unit, 0)} × ${showLength(plan.live_size.height_mm, unit, 0)}${isTaken(plan) ? '' : ', a guess'}`}
              open={!isTaken(plan)}
            >
              <LargestPicture view={view} plan={plan} />
            </Fold>
          )}
          <Findings findings={view.findings} items={items} jobId={view.job.id} />
          {there && (
            <div className="flex flex-col gap-2">
              <LiveAreaFold plan={plan} />
              <DesignsFold view={view} change={change} />
              <CostFold jobId={view.job.id} from={costFrom(view)} />
            </div>
          )}
        </>
      }
      foot={there ? <SheetFigures jobId={view.job.id} plan={plan} /> : null}
    >
      {there ? <Table view={view} plan={plan} change={change} /> : <Empty view={view} add={add} />}
    </Frame>
  );
}

/** Whether the program took a picture of this paper in both ways. */
const isTaken = (plan: Plan) => plan.granted.every((side) => side.taken_mm !== null);

/** What a cost follows from: the sheets as they lie, what they are made of, and how they are finished. */
const costFrom = (view: View) =>
  JSON.stringify([
    view.stations.find((one) => one.station === 'sheet'),
    view.job.document.stock,
    view.job.document.finish,
    view.job.document.copies,
  ]);

/** The sheet with its pieces, to be moved by pointer and by keys. */
function Table({ view, plan, change }: { view: View; plan: Plan; change: Changer }) {
  const jobId = view.job.id;
  const sheet = useSheet(plan);
  const { picks, takeUp, dropPicks, showSheet } = useLook();
  const tell = useNotices((state) => state.tell);
  const hand = useHand(jobId, plan, sheet, (done) => {
    if (done.sheet !== sheet) showSheet(done.sheet);
    takeUp(done.indexes);
    if (done.note) tell(done.note);
  });
  const hold = useTakeUp(jobId);
  const catalog = useCatalog().data;
  const searching = plan.packing.state === 'searching' || plan.packing.state === 'queued';
  const layout = plan.packing.layout;
  const onTakeUp = useCallback(() => {
    if (searching) hold(layout);
  }, [searching, hold, layout]);
  const act = (deed: Deed, done?: () => void) => hand.mutate(deed, done ? { onSettled: done } : {});
  const send = (to: number, indexes: readonly number[] = picks) =>
    act({ action: 'send', indexes: [...indexes], to_sheet: to });

  const pieces = plan.sheets[sheet]?.placements ?? [];
  const indexes = picks.filter((index) => index < pieces.length);
  const step = (by: number, more = false) => {
    if (!pieces.length) return;
    onTakeUp();
    const from = indexes[indexes.length - 1];
    const next =
      from === undefined ? (by > 0 ? 0 : pieces.length - 1) : (from + by + pieces.length) % pieces.length;
    takeUp(more ? [...indexes.filter((one) => one !== next), next] : [next]);
    document.querySelector<SVGElement>(`[data-piece="${next}"]`)?.focus();
  };
  const nudge = (dx: number, dy: number, far: boolean) => {
    const mm = (far ? catalog?.far_nudge_mm : catalog?.nudge_mm) ?? 0;
    if (indexes.length && mm) act({ action: 'nudge', indexes, dx_mm: dx * mm, dy_mm: dy * mm });
  };
  const withPieces = (what: () => void) => () => {
    if (indexes.length) what();
  };
  const locked = indexes.every((index) => pieces[index]?.pin === 'locked');
  useKeys({
    n: () => step(1),
    'Shift+n': () => step(-1),
    m: () => step(1, true),
    arrowleft: () => nudge(-1, 0, false),
    arrowright: () => nudge(1, 0, false),
    arrowup: () => nudge(0, -1, false),
    arrowdown: () => nudge(0, 1, false),
    'Shift+arrowleft': () => nudge(-1, 0, true),
    'Shift+arrowright': () => nudge(1, 0, true),
    'Shift+arrowup': () => nudge(0, -1, true),
    'Shift+arrowdown': () => nudge(0, 1, true),
    r: withPieces(() => act({ action: 'turn', indexes, steps: 1 })),
    'Shift+r': withPieces(() => act({ action: 'turn', indexes, steps: -1 })),
    d: withPieces(() => act({ action: 'duplicate', indexes })),
    l: withPieces(() => act({ action: 'lock', indexes, locked: !locked })),
    x: withPieces(() => act({ action: 'swap', indexes })),
    backspace: withPieces(() => act({ action: 'take off', indexes })),
    escape: dropPicks,
    '[': () => showSheet(Math.max(0, sheet - 1)),
    ']': () => showSheet(Math.min(plan.sheets.length - 1, sheet + 1)),
  });
  return (
    <SheetView
      jobId={jobId}
      plan={plan}
      sheet={sheet}
      mode="plan"
      bar={<HandBar plan={plan} sheet={sheet} picks={indexes} act={act} send={(to) => send(to)} />}
      beside={
        <SearchPanel plan={plan} jobId={jobId}>
          <SheetTools view={view} plan={plan} change={change} />
        </SearchPanel>
      }
      pieces={(pxPerMm) => (
        <HandPieces
          jobId={jobId}
          plan={plan}
          sheet={sheet}
          pxPerMm={pxPerMm}
          act={act}
          onTakeUp={onTakeUp}
          sendTo={(which, to) => send(to, which)}
        />
      )}
    >
      {(pxPerMm) => <DrawnBound plan={plan} pxPerMm={pxPerMm} />}
    </SheetView>
  );
}

function SheetFigures({ jobId, plan }: { jobId: number; plan: Plan }) {
  const unit = useUnit((state) => state.unit);
  const number = useSheet(plan);
  const sheet = plan.sheets[number];
  const nearest = useFigures(jobId, plan)?.nearest_mm[number];
  return (
    <div className="flex min-w-0 items-center gap-7">
      <SheetRow plan={plan} />
      {sheet && (
        <>
          <Figure name={`on sheet ${number + 1}`}>{sheet.placements.length} pieces</Figure>
          <Figure name="used of the area">{Math.round(sheet.used * 100)} %</Figure>
          <Figure name="nearest neighbour">
            {typeof nearest === 'number' ? showLength(nearest, unit) : '–'}
          </Figure>
          <Figure name="cut length">{showWay(sheet.cut_length_mm, unit)}</Figure>
        </>
      )}
    </div>
  );
}
