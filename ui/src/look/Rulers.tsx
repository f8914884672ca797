import { useUnit } from '../kit/units';

interface Props {
  width: number;
  height: number;
  /** Millimetres a pixel of usual text, so that ticks and figures keep their size on screen. */
  mmPerPx: number;
}

/** Rulers along the top and the left of the sheet, in the maker's unit. */
export function Rulers({ width, height, mmPerPx }: Props) {
  const unit = useUnit((state) => state.unit);
  const step = unit === 'mm' ? 5 : 25.4 / 4;
  const major = unit === 'mm' ? 10 : 4;
  const gap = 6 * mmPerPx;
  const ticks = (length: number) => Array.from({ length: Math.floor(length / step) + 1 }, (_, n) => n);
  const tall = (n: number) => (n % major === 0 ? 12 : n % 2 === 0 ? 8 : 5) * mmPerPx;
  const name = (n: number) => (unit === 'mm' ? n * step : n / 4);
  const text = { fontSize: 11 * mmPerPx, fontFamily: 'var(--font-mono)', fill: 'var(--soft)' };
  return (
    <g aria-hidden stroke="var(--soft)" strokeWidth={mmPerPx}>
      {ticks(width).map((n) => (
        <g key={n}>
          <path d={`M${n * step} ${-gap} v${-tall(n)}`} />
          {n % major === 0 && (
            <text {...text} stroke="none" textAnchor="middle" x={n * step} y={-gap - 15 * mmPerPx}>
              {name(n)}
            </text>
          )}
        </g>
      ))}
      {ticks(height).map((n) => (
        <g key={n}>
          <path d={`M${-gap} ${n * step} h${-tall(n)}`} />
          {n % major === 0 && (
            <text
              {...text}
              stroke="none"
              textAnchor="middle"
              transform={`translate(${-gap - 15 * mmPerPx} ${n * step}) rotate(-90)`}
            >
              {name(n)}
            </text>
          )}
        </g>
      ))}
    </g>
  );
}
