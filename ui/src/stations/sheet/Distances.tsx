import type { Checked } from '../../api/hand';
import { showLength, useUnit } from '../../kit/units';

/** Lines from the piece in hand to what is near it, with their lengths; red and struck through where a rule breaks. */
export function Distances({ checked, pxPerMm }: { checked: Checked; pxPerMm: number }) {
  const unit = useUnit((state) => state.unit);
  const px = 1 / pxPerMm;
  return (
    <g data-testid="distances" data-free={checked.free}>
      {/* The worst comes first in the list, and is drawn last, on top of the others. */}
      {[...checked.distances].reverse().map((one, index) => {
        const { from_x_mm: x0, from_y_mm: y0, to_x_mm: x1, to_y_mm: y1 } = one;
        const colour = one.broken ? 'var(--d-stop)' : 'var(--d-edge)';
        const words = one.broken
          ? `${showLength(Math.max(0, one.mm), unit)} of ${showLength(one.needed_mm, unit)}`
          : showLength(one.mm, unit);
        const text =
          one.mm === 0 && one.broken
            ? 'overlaps'
            : one.mm < 0
              ? `${showLength(-one.mm, unit)} outside`
              : words;
        const wide = text.length * 7.2 + 10;
        return (
          <g key={index}>
            <line
              x1={x0}
              y1={y0}
              x2={x1}
              y2={y1}
              stroke={colour}
              strokeWidth="2"
              strokeDasharray={one.broken ? '5 3' : undefined}
              vectorEffect="non-scaling-stroke"
            />
            <g transform={`translate(${(x0 + x1) / 2} ${(y0 + y1) / 2}) scale(${px})`}>
              <rect
                x={-wide / 2}
                y={-10}
                width={wide}
                height={20}
                rx="4"
                fill="var(--d-paper)"
                stroke={colour}
              />
              <text
                textAnchor="middle"
                dy="4.5"
                fontSize="12"
                fontFamily="var(--font-mono)"
                fontWeight={one.broken ? 700 : 400}
                fill={colour}
              >
                {text}
              </text>
            </g>
          </g>
        );
      })}
    </g>
  );
}
