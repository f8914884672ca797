import { type PointerEvent, type ReactNode, useRef } from 'react';

import type { Plan } from '../api/view';
import { useLook } from './shown';
import { useKeys } from '../kit/shortcuts';
import { Button } from '../kit/Button';
import { showSize, useUnit } from '../kit/units';
import { textScale } from '../kit/textScale';
import { PieceShape, Places, type SheetMode, Stipple } from './PieceShape';
import { Rulers } from './Rulers';
import { type SheetZoom, useSheetZoom } from './useSheetZoom';
import { useSize } from './useSize';

interface Props {
  jobId: number;
  plan: Plan;
  sheet: number;
  mode: SheetMode;
  /** Drawn over the sheet, in its frame; told how many screen pixels a millimetre is. */
  children?: ReactNode | ((pxPerMm: number) => ReactNode);
  /** Stands in the place of the pieces, where they can be moved. */
  pieces?: (pxPerMm: number) => ReactNode;
  /** Stands above the drawing, beside the zoom. */
  bar?: ReactNode;
  /** Stands to the right of the drawing. */
  beside?: ReactNode;
}

const RULER_PX = 34;
const RIM_PX = 14;
// A press that moves less than this is a click.
const STILL_PX = 4;

/** One sheet at true proportion, paper on a table, with rulers. The wheel zooms, a drag on the table moves it. */
export function SheetView({ jobId, plan, sheet, mode, children, pieces, bar, beside }: Props) {
  const [ref, room] = useSize<HTMLDivElement>();
  const dropPicks = useLook((state) => state.dropPicks);
  const { width_mm: width, height_mm: height } = plan;
  const unit = useUnit((state) => state.unit);
  const larger = textScale();
  const taken = RULER_PX * larger + RIM_PX;
  const inner = Math.max(0.1, Math.min((room.width - taken) / width, (room.height - taken) / height));
  const ruler = (RULER_PX * larger) / inner;
  const rim = RIM_PX / inner;
  const zoom = useSheetZoom(ref, room, [-ruler, -ruler, width + ruler + rim, height + ruler + rim]);
  const from = useRef<{ x: number; y: number; far: boolean } | null>(null);
  const fingers = useRef(new Map<number, { x: number; y: number }>());
  useKeys({ '+': zoom.closer, '-': zoom.farther, '0': zoom.fit });
  const printed = mode === 'print';
  const placements = plan.sheets[sheet]?.placements ?? [];
  const live = plan.sheets[sheet]?.live_path ?? plan.live_path;
  /** Two fingers: closer or farther by how far they move apart. */
  const pinch = (event: PointerEvent) => {
    const before = [...fingers.current.values()];
    fingers.current.set(event.pointerId, { x: event.clientX, y: event.clientY });
    const [a, b] = [...fingers.current.values()];
    const [c, d] = before;
    const place = ref.current?.getBoundingClientRect();
    if (!a || !b || !c || !d || !place) return;
    const factor = Math.hypot(a.x - b.x, a.y - b.y) / Math.max(1, Math.hypot(c.x - d.x, c.y - d.y));
    zoom.by(factor, [(a.x + b.x) / 2 - place.left, (a.y + b.y) / 2 - place.top]);
  };
  const move = (event: PointerEvent) => {
    if (fingers.current.size > 1) {
      pinch(event);
      return;
    }
    if (!from.current) return;
    const [dx, dy] = [event.clientX - from.current.x, event.clientY - from.current.y];
    if (!from.current.far && Math.hypot(dx, dy) < STILL_PX) return;
    zoom.pan(dx, dy);
    from.current = { x: event.clientX, y: event.clientY, far: true };
  };
  const letGo = (event: PointerEvent) => {
    fingers.current.delete(event.pointerId);
    if (from.current && !from.current.far) dropPicks();
    from.current = null;
  };
  return (
    <div className="absolute inset-0 flex flex-col">
      <div className="flex min-h-11 items-center justify-between gap-3 border-b max-[78rem]:min-h-[3.75rem] max-[52rem]:min-h-[8rem] border-rule px-3 py-1">
        <div className="min-w-0 flex-1">{bar}</div>
        <ZoomButtons zoom={zoom} />
      </div>
      <div className="flex min-h-0 flex-1">
        <div ref={ref} className="drawing relative min-w-0 flex-1 overflow-hidden">
          {room.width > 0 && (
            <svg
              width={room.width}
              height={room.height}
              viewBox={zoom.viewBox}
              role={pieces ? 'group' : 'img'}
              aria-label={`Sheet ${sheet + 1}: ${placements.length} pieces on ${showSize(width, height, unit)}`}
              data-testid="sheet"
              data-pieces={placements.length}
              className="touch-none select-none"
              onDragStart={(event) => event.preventDefault()}
              onPointerDown={(event) => {
                if (event.button > 1) return;
                fingers.current.set(event.pointerId, { x: event.clientX, y: event.clientY });
                from.current = { x: event.clientX, y: event.clientY, far: fingers.current.size > 1 };
                event.currentTarget.setPointerCapture(event.pointerId);
              }}
              onPointerMove={move}
              onPointerUp={letGo}
              onPointerCancel={(event) => {
                fingers.current.delete(event.pointerId);
                from.current = null;
              }}
            >
              <rect
                width={width}
                height={height}
                fill={printed ? 'var(--d-paper)' : 'var(--d-off)'}
                style={{ filter: 'drop-shadow(0 2px 5px rgb(34 38 46 / 0.25))' }}
              />
              {!printed && (
                <path
                  d={live}
                  fillRule="evenodd"
                  fill={plan.sheets[sheet]?.colour ?? 'var(--d-paper)'}
                  stroke="var(--d-rule)"
                  strokeWidth="1"
                  vectorEffect="non-scaling-stroke"
                />
              )}
              <Rulers width={width} height={height} mmPerPx={larger / zoom.scale} />
              <defs>
                <Stipple />
                {plan.items.map((item) => (
                  <PieceShape
                    key={item.number}
                    jobId={jobId}
                    item={item}
                    mode={mode}
                    ground={plan.sheets[sheet]?.colour ?? plan.stock.colour}
                    through={!plan.stock.shows_white}
                  />
                ))}
              </defs>
              {/* Everything is drawn as the finished piece reads; the print screen shows the file, mirrored where it is. */}
              <g transform={printed && plan.mirror ? `translate(${width} 0) scale(-1 1)` : undefined}>
                {pieces ? pieces(zoom.scale) : <Still plan={plan} sheet={sheet} />}
                <path
                  d={plan.sheets[sheet]?.guides}
                  fill="none"
                  stroke="var(--d-ink)"
                  strokeWidth="1"
                  opacity="0.6"
                  vectorEffect="non-scaling-stroke"
                  pointerEvents="none"
                />
                <g fill="var(--d-ink)" fillRule="evenodd" pointerEvents="none">
                  {plan.marks.map((mark, index) => (
                    <path key={index} d={mark.path} fillRule="evenodd" />
                  ))}
                </g>
              </g>
              <g pointerEvents="none">{typeof children === 'function' ? children(zoom.scale) : children}</g>
            </svg>
          )}
        </div>
        {beside}
      </div>
    </div>
  );
}

function ZoomButtons({ zoom }: { zoom: SheetZoom }) {
  return (
    <div role="group" aria-label="Zoom" className="flex shrink-0 items-center">
      <Button look="bare" className="px-2" onClick={zoom.farther} aria-label="Farther">
        −
      </Button>
      <span className="figure w-11 text-center text-sm" role="status" aria-label="zoom">
        {zoom.percent} %
      </span>
      <Button look="bare" className="px-2" onClick={zoom.closer} aria-label="Closer">
        +
      </Button>
      <Button look="bare" className="px-2" onClick={zoom.fit} disabled={zoom.percent === 100}>
        Fit
      </Button>
    </div>
  );
}

/** The pieces where they lie, not to be moved. */
function Still({ plan, sheet }: { plan: Plan; sheet: number }) {
  const placements = plan.sheets[sheet]?.placements ?? [];
  return (
    <g>
      {placements.map((placement, index) => (
        <use key={index} href={`#item-${placement.item_number}`} transform={lying(placement)} />
      ))}
      <PointedAt plan={plan} sheet={sheet} />
    </g>
  );
}

/** Where a placement puts its design, as a transform. */
export const lying = (placement: { x_mm: number; y_mm: number; turn_deg: number }) =>
  `translate(${placement.x_mm} ${placement.y_mm}) rotate(${placement.turn_deg})`;

/** The places that the finding under the pointer is about, on every piece of its design. */
export function PointedAt({ plan, sheet }: { plan: Plan; sheet: number }) {
  const finding = useLook((state) => state.finding);
  if (finding?.item_number == null) return null;
  const item = plan.items.find((one) => one.number === finding.item_number);
  if (!item) return null;
  return (plan.sheets[sheet]?.placements ?? [])
    .filter((placement) => placement.item_number === item.number)
    .map((placement, index) => (
      <g key={index} transform={lying(placement)}>
        <Places finding={finding} item={item} />
      </g>
    ));
}
