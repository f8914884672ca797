import type { Outcome } from '../../api/cut';

const DROP = 'M30 6 L45.6 33 A18 18 0 1 1 14.4 33 Z';
const SLIT = 'M20 42 H40';

/** A test drop as it looks when it was cut: what parts is lifted, what is marked has a line on the backing. */
export function DropPicture({ outcome, size = 60 }: { outcome: Outcome | null; size?: number }) {
  const face = '#fffdf8';
  return (
    <svg viewBox="0 0 60 66" width={size} height={size * 1.1} aria-hidden className="drop">
      <rect x="1" y="1" width="58" height="64" rx="3" fill={face} stroke="var(--rule)" />
      {outcome === null && (
        <path d={DROP} fill="none" stroke="#6b6f78" strokeWidth="1.2" strokeDasharray="3 3" />
      )}
      {outcome === 'not-through' && (
        <>
          <path d={DROP} fill="none" stroke="#8a8f98" strokeWidth="1.4" />
          <path d={SLIT} stroke="#8a8f98" strokeWidth="1.2" />
        </>
      )}
      {(outcome === 'clean' || outcome === 'backing-marked') && (
        <>
          <path d={DROP} fill="#d9c9a6" stroke="#22262e" strokeWidth="1" />
          {outcome === 'backing-marked' && (
            <path d={DROP} fill="none" stroke="#8a500e" strokeWidth="2.4" strokeDasharray="5 2" />
          )}
          <g transform="translate(7 -4) rotate(9 30 36)">
            <path d={DROP} fill={face} stroke="#22262e" strokeWidth="1" />
            <path d={SLIT} stroke="#22262e" strokeWidth="1.2" />
          </g>
        </>
      )}
      {outcome === 'backing-through' && (
        <>
          <path d={DROP} fill="#2b2f36" stroke="#a3261c" strokeWidth="2" />
          <path d={SLIT} stroke="#a3261c" strokeWidth="1.6" />
        </>
      )}
      {outcome === 'torn' && (
        <>
          <path
            d="M30 6 L33 15 L38 14 L39 22 L45 27 L44 34 A18 18 0 1 1 14.4 33 L19 26 L17 21 L25 18 Z"
            fill="#d9c9a6"
            stroke="#a3261c"
            strokeWidth="1.4"
          />
          <path d="M22 40 l4 3 l4 -4 l4 4 l5 -3" fill="none" stroke="#a3261c" strokeWidth="1.4" />
        </>
      )}
    </svg>
  );
}
