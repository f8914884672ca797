import type { Checked } from '../../api/hand';
import { textScale } from '../../kit/textScale';
import { showLength, useUnit } from '../../kit/units';

type Distance = Checked['distances'][number];

interface Label {
  one: Distance;
  text: string;
  colour: string;
  /** Middle and width, in pixels of usual text. */
  x: number;
  y: number;
  wide: number;
}

const HIGH = 20;
// Where a label may stand aside for one that is already there, in its own heights and half widths.
const ASIDE = [
  [0, 0],
  [0, 1.1],
  [0, -1.1],
  [1.2, 0],
  [-1.2, 0],
  [1.1, 1.1],
  [-1.1, 1.1],
  [1.1, -1.1],
  [-1.1, -1.1],
  [0, 2.2],
  [0, -2.2],
] as const;

/** Lines from the piece in hand to what is near it, with their lengths; red and struck through where a rule breaks. */
export function Distances({ checked, pxPerMm }: { checked: Checked; pxPerMm: number }) {
  const unit = useUnit((state) => state.unit);
  // Labels are laid out in pixels of usual text, and drawn larger where the reader's is.
  const scale = pxPerMm / textScale();
  const labels = laidOut(
    checked.distances.map((one) =>
      labelOf(
        one,
        says(one, (mm) => showLength(mm, unit)),
        scale,
      ),
    ),
  );
  return (
    <g data-testid="distances" data-free={checked.free}>
      {/* All lines lie under all labels; the worst comes first in the list and is drawn last. */}
      {[...labels].reverse().map(({ one, colour }, index) => (
        <line
          key={index}
          x1={one.from_x_mm}
          y1={one.from_y_mm}
          x2={one.to_x_mm}
          y2={one.to_y_mm}
          stroke={colour}
          strokeWidth="2"
          strokeDasharray={one.broken ? '5 3' : undefined}
          vectorEffect="non-scaling-stroke"
        />
      ))}
      {[...labels].reverse().map(({ one, text, colour, x, y, wide }, index) => (
        <g key={index} transform={`translate(${x / scale} ${y / scale}) scale(${1 / scale})`}>
          <rect
            x={-wide / 2}
            y={-HIGH / 2}
            width={wide}
            height={HIGH}
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
      ))}
    </g>
  );
}

function says(one: Distance, length: (mm: number) => string): string {
  if (one.mm === 0 && one.broken) return 'overlaps';
  if (one.mm < 0) return `${length(-one.mm)} outside`;
  return one.broken ? `${length(one.mm)} of ${length(one.needed_mm)}` : length(one.mm);
}

const labelOf = (one: Distance, text: string, scale: number): Label => ({
  one,
  text,
  colour: one.broken ? 'var(--d-stop)' : 'var(--d-edge)',
  x: ((one.from_x_mm + one.to_x_mm) / 2) * scale,
  y: ((one.from_y_mm + one.to_y_mm) / 2) * scale,
  wide: text.length * 7.2 + 10,
});

/** The labels, each moved aside from those before it; one that finds no room stays at its line. */
function laidOut(labels: Label[]): Label[] {
  const laid: Label[] = [];
  for (const label of labels) {
    const aside = ASIDE.map(([across, down]) => ({
      ...label,
      x: label.x + (across * label.wide) / 2,
      y: label.y + down * HIGH,
    })).find((place) => !laid.some((other) => overlap(place, other)));
    laid.push(aside ?? label);
  }
  return laid;
}

const overlap = (a: Label, b: Label) =>
  Math.abs(a.x - b.x) < (a.wide + b.wide) / 2 && Math.abs(a.y - b.y) < HIGH;
