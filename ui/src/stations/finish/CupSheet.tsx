import type { OnCup } from '../../api/finish';

const STEPS = 60;

/** What the wall unrolls to, and the piece on it as the sheet packs it. */
export function CupSheet({ cup, dimension }: { cup: OnCup; dimension: 'around' | 'up' | null }) {
  const flat = cup.kind === 'cylinder';
  const upward = cup.top_mm >= cup.bottom_mm;
  const span = flat ? 360 : (cup.angle_deg ?? 0);
  const around = cup.around_mm;
  const at = (degrees: number, up: number): [number, number] => {
    if (flat) return [(degrees / 360) * around, -up];
    const angle = ((degrees / 360) * span * Math.PI) / 180;
    const inner = cup.inner_radius_mm ?? 0;
    const outer = cup.outer_radius_mm ?? 0;
    const radius = upward ? inner + up : outer - up;
    const sign = upward ? -1 : 1;
    return [radius * Math.sin(angle), sign * radius * Math.cos(angle)];
  };
  const arc = (up: number, from = -180, to = 180) =>
    Array.from({ length: STEPS + 1 }, (_, step) => at(from + ((to - from) * step) / STEPS, up));
  const rim = [...arc(0), ...arc(cup.slant_mm, 180, -180)];
  const xs = rim.map(([x]) => x);
  const ys = rim.map(([, y]) => y);
  const pad = 6;
  const box = [
    Math.min(...xs) - pad,
    Math.min(...ys) - pad,
    Math.max(...xs) - Math.min(...xs) + 2 * pad,
    Math.max(...ys) - Math.min(...ys) + 2 * pad,
  ];
  const ring = (points: readonly (readonly number[])[]) =>
    path(
      points.map(([degrees = 0, up = 0]) => at(degrees, up)),
      true,
    );
  return (
    <svg
      viewBox={box.join(' ')}
      className="drawing h-[min(36vh,18rem)] w-full"
      role="img"
      aria-label={flat ? 'The wall laid flat: a rectangle' : 'The wall laid flat: part of a ring'}
    >
      <path
        d={path(rim, true)}
        fill="var(--d-paper)"
        stroke="var(--d-soft)"
        strokeDasharray="5 4"
        strokeWidth="1.2"
        vectorEffect="non-scaling-stroke"
      />
      <path
        d={cup.edge.map(ring).join(' ')}
        fill="#fff"
        fillRule="evenodd"
        stroke="var(--d-edge)"
        strokeWidth="1.4"
        vectorEffect="non-scaling-stroke"
      />
      <path d={cup.drawing.map(ring).join(' ')} fill="var(--d-edge)" fillOpacity="0.75" fillRule="evenodd" />
      {dimension && (
        <path
          d={path(dimension === 'around' ? arc(cup.up_mm) : [at(-150, 0), at(-150, cup.up_mm)], false)}
          fill="none"
          stroke="var(--d-look)"
          strokeWidth="2.4"
          vectorEffect="non-scaling-stroke"
        />
      )}
    </svg>
  );
}

const path = (points: readonly (readonly [number, number])[], closed: boolean) =>
  `M ${points.map(([x, y]) => `${x.toFixed(2)} ${y.toFixed(2)}`).join(' L ')}${closed ? ' Z' : ''}`;
