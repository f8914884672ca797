import type { Ledger } from '../api/ledger';
import { showLength, useUnit } from '../kit/units';

const LEAST_MM = 0.5;

/** What pieces were off by, as arrows from where they should be; the newest are the darkest. */
export function MissPlot({ machine }: { machine: Ledger['machines'][number] }) {
  const { misses } = machine;
  const unit = useUnit((state) => state.unit);
  const reach = Math.max(LEAST_MM, ...misses.map(([x = 0, y = 0]) => Math.hypot(x, y))) * 1.15;
  const [dx = 0, dy = 0] = [0, 1].map(
    (axis) => misses.reduce((sum, one) => sum + (one[axis] ?? 0), 0) / misses.length,
  );
  const words = `${showLength(Math.abs(dx), unit, 2)} to the ${dx < 0 ? 'left' : 'right'} and ${showLength(Math.abs(dy), unit, 2)} ${dy < 0 ? 'up' : 'down'}`;
  return (
    <figure className="flex flex-col gap-1.5">
      <figcaption className="text-sm font-bold">{machine.cutter}</figcaption>
      <svg
        viewBox={`${-reach} ${-reach} ${2 * reach} ${2 * reach}`}
        className="panel w-full"
        role="img"
        aria-label={`${misses.length} misses; on average ${words}`}
      >
        {[0.5, 1].map((share) => (
          <circle
            key={share}
            r={reach * share * 0.85}
            fill="none"
            stroke="var(--rule)"
            vectorEffect="non-scaling-stroke"
          />
        ))}
        <path
          d={`M ${-reach} 0 H ${reach} M 0 ${-reach} V ${reach}`}
          stroke="var(--rule)"
          vectorEffect="non-scaling-stroke"
        />
        {misses.map(([x = 0, y = 0], place) => (
          <line
            key={place}
            x2={x}
            y2={y}
            stroke="var(--rowan)"
            strokeOpacity={0.25 + (0.75 * (place + 1)) / misses.length}
            strokeWidth="2"
            strokeLinecap="round"
            vectorEffect="non-scaling-stroke"
          />
        ))}
        <circle cx={dx} cy={dy} r={reach * 0.04} fill="var(--kingfisher)" />
      </svg>
      <p className="text-sm text-soft">
        The dot is their middle, {words}. The outer ring is {showLength(reach * 0.85, unit, 2)}.
      </p>
    </figure>
  );
}
