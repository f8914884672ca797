import { type PointerEvent, useRef, useState } from 'react';

import type { Item, Placement, Plan } from '../../api/view';
import { type Checked, type Deed, useHandCheck } from '../../api/hand';
import { useLook } from '../../look/shown';
import { lying, PointedAt } from '../../look/SheetView';
import { Distances } from './Distances';
import { inHand, isStill, movedBy, movedTo, picksAfter } from './handDrag';

interface Props {
  jobId: number;
  plan: Plan;
  sheet: number;
  pxPerMm: number;
  act: (deed: Deed, done?: () => void) => void;
  /** Called when a piece is taken up, so that nothing moves under the hand. */
  onTakeUp: () => void;
  sendTo: (indexes: readonly number[], sheet: number) => void;
}

interface Drag {
  indexes: readonly number[];
  from: { x: number; y: number };
  by: { x: number; y: number };
  layout: string;
  /** Let go, and on its way to the server. */
  dropped: boolean;
}

/** The pieces of a sheet, each to be taken up, moved and let go; distances are shown while one moves. */
export function HandPieces({ jobId, plan, sheet, pxPerMm, act, onTakeUp, sendTo }: Props) {
  const { picks, takeUp } = useLook();
  const [drag, setDrag] = useState<Drag | null>(null);
  const { checked, look, end } = useHandCheck(jobId);
  const layer = useRef<SVGGElement>(null);
  const placements = plan.sheets[sheet]?.placements ?? [];
  // A layout that came in after the drop shows the pieces where they are now.
  const held = drag && drag.layout === plan.packing.layout ? drag : null;
  const at = (placement: Placement, index: number): Placement =>
    held?.indexes.includes(index) ? movedTo(placement, held.by) : placement;
  const mm = (event: PointerEvent) => {
    const matrix = layer.current?.getScreenCTM()?.inverse();
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
    return { x: point.x, y: point.y };
  };
  const press = (event: PointerEvent, index: number) => {
    if (event.button !== 0) return;
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    onTakeUp();
    const several = event.shiftKey || event.ctrlKey || event.metaKey;
    const next = picksAfter(picks, index, several);
    takeUp(next);
    const locked = next.some((one) => placements[one]?.pin === 'locked');
    if (!several && !locked)
      setDrag({
        indexes: next,
        from: mm(event),
        by: { x: 0, y: 0 },
        layout: plan.packing.layout,
        dropped: false,
      });
  };
  const move = (event: PointerEvent) => {
    if (!held || held.dropped) return;
    event.stopPropagation();
    const by = movedBy(held.from, mm(event));
    if (isStill(by)) return;
    setDrag({ ...held, by });
    look({ layout: held.layout, sheet, pieces: inHand(placements, by, held.indexes), slide: true });
  };
  const letGo = (event: PointerEvent) => {
    if (!drag || drag.dropped) return;
    event.stopPropagation();
    end();
    if (!held) {
      // Another layout is in sight: the piece must not hang on the pointer when its own comes back.
      setDrag(null);
      return;
    }
    const moved = !isStill(held.by);
    const over = document
      .elementsFromPoint(event.clientX, event.clientY)
      .map((element) => element.closest<HTMLElement>('[data-sheet]'))
      .find((element) => element);
    if (moved && over && Number(over.dataset.sheet) !== sheet) {
      setDrag(null);
      sendTo(held.indexes, Number(over.dataset.sheet));
    } else if (moved) {
      setDrag({ ...held, dropped: true });
      act({ action: 'drop', pieces: inHand(placements, held.by, held.indexes) }, () => setDrag(null));
    } else setDrag(null);
  };
  const names = new Map(plan.items.map((item) => [item.number, item]));
  const current = picks[picks.length - 1] ?? 0;
  // What is in hand lies on top of what it is moved over.
  const rank = (index: number) => Number(held?.indexes.includes(index) ?? false);
  const order = placements.map((_, index) => index).sort((a, b) => rank(a) - rank(b));
  return (
    <g ref={layer}>
      <g role="listbox" aria-multiselectable aria-label={`Pieces on sheet ${sheet + 1}`}>
        {order.map((index) => {
          const placement = placements[index];
          const item = placement && names.get(placement.item_number);
          if (!item) return null;
          return (
            <Piece
              key={index}
              index={index}
              item={item}
              placement={at(placement, index)}
              picked={picks.includes(index)}
              reachable={index === current}
              pxPerMm={pxPerMm}
              onPointerDown={(event) => press(event, index)}
              onPointerMove={move}
              onPointerUp={letGo}
              onFocus={() => picks.length === 0 && takeUp([index])}
            />
          );
        })}
      </g>
      <g pointerEvents="none">
        <PointedAt plan={plan} sheet={sheet} />
        {checked && held && !held.dropped && (
          <>
            <WouldLand checked={checked} plan={plan} placements={placements} />
            <Distances checked={checked} pxPerMm={pxPerMm} />
          </>
        )}
      </g>
    </g>
  );
}

interface WouldLandProps {
  checked: Checked;
  plan: Plan;
  placements: readonly Placement[];
}

/** Where pieces that collide would slide to if they were let go now. */
function WouldLand({ checked, plan, placements }: WouldLandProps) {
  const slide = checked.slide;
  if (!slide) return null;
  return checked.asked.pieces.map((piece) => {
    const item = plan.items.find((one) => one.number === placements[piece.index]?.item_number);
    const there = { ...piece, x_mm: piece.x_mm + slide.dx_mm, y_mm: piece.y_mm + slide.dy_mm };
    return (
      <path
        key={piece.index}
        data-testid="would-land"
        d={item?.edge_path}
        transform={lying(there)}
        fill="none"
        stroke="var(--d-edge)"
        strokeWidth="1.5"
        strokeDasharray="3 3"
        vectorEffect="non-scaling-stroke"
      />
    );
  });
}

interface PieceProps {
  index: number;
  item: Item;
  placement: Placement;
  picked: boolean;
  reachable: boolean;
  pxPerMm: number;
  onPointerDown: (event: PointerEvent) => void;
  onPointerMove: (event: PointerEvent) => void;
  onPointerUp: (event: PointerEvent) => void;
  onFocus: () => void;
}

const PIN_WORDS = { free: '', kept: '', hand: ', placed by hand', locked: ', locked' } as const;

function Piece({ index, item, placement, picked, reachable, pxPerMm, ...events }: PieceProps) {
  const box = item.edge_box;
  const middle = [box.x_mm + box.width_mm / 2, box.y_mm + box.height_mm / 2] as const;
  return (
    <g
      role="option"
      aria-selected={picked}
      aria-label={`${item.name}${PIN_WORDS[placement.pin ?? 'free']}`}
      tabIndex={reachable ? 0 : -1}
      data-piece={index}
      data-item={item.number}
      data-pin={placement.pin}
      transform={lying(placement)}
      className="cursor-grab outline-none focus-visible:[&>.halo]:opacity-100"
      {...events}
      onPointerCancel={events.onPointerUp}
    >
      <use href={`#item-${item.number}`} />
      <path
        className={`halo ${picked ? '' : 'opacity-0'}`}
        d={item.edge_path}
        fill={picked ? 'var(--d-edge)' : 'none'}
        fillOpacity="0.12"
        stroke="var(--d-edge)"
        strokeWidth="3"
        vectorEffect="non-scaling-stroke"
      />
      {placement.pin === 'locked' && (
        <PinSign x={middle[0]} y={middle[1]} mmPerPx={1 / pxPerMm} turn={-placement.turn_deg} />
      )}
    </g>
  );
}

/** A small pin: the piece is locked. */
function PinSign({ x, y, mmPerPx, turn }: { x: number; y: number; mmPerPx: number; turn: number }) {
  return (
    <g transform={`translate(${x} ${y}) rotate(${turn}) scale(${mmPerPx})`}>
      <circle cy="-9" r="7" fill="var(--d-paper)" stroke="var(--d-ink)" strokeWidth="1.5" />
      <circle cy="-9" r="3.5" fill="var(--d-ink)" />
      <path d="M0 -2 V9" stroke="var(--d-ink)" strokeWidth="2" />
    </g>
  );
}
