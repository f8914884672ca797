import { useState } from 'react';

import type { OnCup } from '../../api/finish';
import { PieceRings } from './PieceRings';

/** Where the eye is: so far above the level, degrees. */
const TILT = (14 * Math.PI) / 180;
/** A point nearer to the outline of the cup than this is behind it. */
const EDGE_DEG = 88;
const STEPS = 72;

/** The cup as one sees it, turned by hand, with the piece on it. */
export function CupPicture({ cup, dimension }: { cup: OnCup; dimension: 'around' | 'up' | null }) {
  const [turn, setTurn] = useState(0);
  const [grip, setGrip] = useState<number | null>(null);
  /** As the eye sees a place on the wall. */
  const at = (degrees: number, up: number): [number, number] => {
    const share = up / cup.slant_mm;
    const radius = (cup.bottom_mm + (cup.top_mm - cup.bottom_mm) * share) / 2;
    const angle = (degrees * Math.PI) / 180;
    return [
      radius * Math.sin(angle),
      -share * cup.upright_mm * Math.cos(TILT) + radius * Math.cos(angle) * Math.sin(TILT),
    ];
  };
  const circle = (up: number, from = 0, to = 360) =>
    Array.from({ length: STEPS + 1 }, (_, step) => at(from + ((to - from) * step) / STEPS, up));
  const ring = (points: readonly (readonly number[])[]) => {
    const turned = points.map(([degrees = 0, up = 0]) => [wrapped(degrees + turn), up] as const);
    // What is behind the cup is not seen: it is drawn into its outline.
    if (turned.every(([degrees]) => Math.abs(degrees) > EDGE_DEG)) return '';
    return path(
      turned.map(([degrees, up]) => at(Math.min(EDGE_DEG, Math.max(-EDGE_DEG, degrees)), up)),
      true,
    );
  };
  const measures = {
    around: circle(cup.up_mm, -90, 90),
    up: [at(-60, 0), at(-60, cup.up_mm)],
  };
  const wide = Math.max(cup.top_mm, cup.bottom_mm);
  const high = cup.upright_mm * Math.cos(TILT);
  const lip = (wide / 2) * Math.sin(TILT);
  const box = [-wide / 2 - 14, -high - lip - 8, wide + 28, high + 2 * lip + 16] as const;
  return (
    <figure className="flex min-w-0 flex-col gap-2">
      <svg
        viewBox={box.join(' ')}
        className="drawing h-[min(36vh,24rem)] w-full cursor-grab touch-none"
        role="img"
        aria-label={`The piece on its cup, turned by ${Math.round(turn)} degrees`}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          setGrip(event.clientX);
        }}
        onPointerMove={(event) => {
          if (grip === null) return;
          setTurn(wrapped(turn + (event.clientX - grip) * 0.6));
          setGrip(event.clientX);
        }}
        onPointerUp={() => setGrip(null)}
      >
        <path
          d={path([...circle(0, -90, 90), ...circle(cup.slant_mm, 90, -90)], true)}
          fill="var(--d-paper)"
          stroke="var(--d-soft)"
          strokeWidth="1.2"
          vectorEffect="non-scaling-stroke"
        />
        <path
          d={path(circle(cup.slant_mm), true)}
          fill="var(--d-off)"
          stroke="var(--d-soft)"
          strokeWidth="1.2"
          vectorEffect="non-scaling-stroke"
        />
        <path
          d={cup.handle.map(ring).join(' ')}
          fill="var(--d-off)"
          stroke="var(--d-soft)"
          strokeDasharray="4 3"
          strokeWidth="1.2"
          vectorEffect="non-scaling-stroke"
        />
        <PieceRings
          edge={cup.edge.map(ring).join(' ')}
          drawing={cup.drawing.map(ring).join(' ')}
          measure={dimension && path(measures[dimension], false)}
        />
      </svg>
      <figcaption>
        <label className="flex items-center gap-3 text-sm">
          Turn the cup
          <input
            type="range"
            className="min-w-0 flex-1 accent-kingfisher"
            min={-180}
            max={180}
            value={Math.round(turn)}
            aria-valuetext={`${Math.round(turn)} degrees`}
            onChange={(event) => setTurn(Number(event.target.value))}
          />
        </label>
      </figcaption>
    </figure>
  );
}

const wrapped = (degrees: number) => ((((degrees + 180) % 360) + 360) % 360) - 180;

const path = (points: readonly (readonly [number, number])[], closed: boolean) =>
  `M ${points.map(([x, y]) => `${x.toFixed(2)} ${y.toFixed(2)}`).join(' L ')}${closed ? ' Z' : ''}`;
