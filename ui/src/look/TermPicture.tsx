/** A small drawing of each word of the craft. */
import type { ReactNode } from 'react';

const face = { fill: 'var(--kingfisher)', fillOpacity: 0.45 } as const;
const under = { fill: 'var(--tray)', stroke: 'var(--soft)', strokeWidth: 1 } as const;
const blade = { fill: 'none', stroke: 'var(--ink)', strokeWidth: 1.8 } as const;
const thin = { fill: 'none', stroke: 'var(--soft)', strokeWidth: 1 } as const;
const print = { fill: 'var(--kingfisher)' } as const;

/** Face and backing from the side, with a blade that goes so deep. */
const layers = (depth: number) => (
  <>
    <rect x="6" y="14" width="52" height="9" {...face} />
    <rect x="6" y="23" width="52" height="7" {...under} />
    <path d={`M24 6V${depth} M42 6V${depth}`} {...blade} />
  </>
);

const PICTURES: Record<string, ReactNode> = {
  'kiss-cut': layers(23),
  'through-cut': layers(31),
  backing: (
    <>
      <path d="M6 26H58V33H6Z" {...under} />
      <path d="M6 17H36C46 17 50 12 54 6" fill="none" stroke="var(--kingfisher)" strokeWidth="6" />
    </>
  ),
  bleed: (
    <>
      <circle cx="32" cy="22" r="18" {...face} />
      <circle cx="32" cy="22" r="14" {...print} />
      <circle cx="32" cy="22" r="14" {...blade} />
    </>
  ),
  border: (
    <>
      <circle cx="32" cy="22" r="17" fill="var(--paper)" stroke="var(--ink)" strokeWidth="1.8" />
      <circle cx="32" cy="22" r="10" {...print} />
    </>
  ),
  marks: (
    <>
      <rect x="12" y="3" width="40" height="38" {...under} />
      <path d="M16 13V7H22 M42 7H48V13 M48 31V37H42 M22 37H16V31" {...blade} />
      <circle cx="32" cy="22" r="7" {...print} />
    </>
  ),
  weeding: (
    <>
      <rect x="8" y="12" width="48" height="24" {...under} />
      <circle cx="24" cy="24" r="8" {...print} />
      <path d="M36 34C42 26 44 18 56 8" fill="none" stroke="var(--kingfisher)" strokeWidth="5" />
    </>
  ),
  mask: (
    <>
      <path d="M16 30H48" stroke="var(--kingfisher)" strokeWidth="5" strokeDasharray="9 4" />
      <path d="M8 24H44C52 24 54 16 58 8" {...blade} />
      <path d="M8 36H56" {...thin} />
    </>
  ),
  ppi: (
    <>
      {[0, 1, 2, 3].flatMap((row) =>
        [0, 1, 2, 3].map((column) => (
          <rect
            key={`${row}.${column}`}
            x={16 + 8 * column}
            y={6 + 8 * row}
            width="7"
            height="7"
            fill="var(--kingfisher)"
            fillOpacity={row + column > 2 && row + column < 6 ? 0.8 : 0.2}
          />
        )),
      )}
    </>
  ),
  neck: (
    <>
      <path d="M8 12H26V20H38V12H56V32H38V24H26V32H8Z" fill="var(--kingfisher)" fillOpacity="0.45" />
      <path d="M32 8V18 M32 36V26" {...blade} />
    </>
  ),
  tack: (
    <>
      <rect x="6" y="30" width="52" height="6" {...under} />
      <path d="M6 22H40C48 22 52 16 56 8" fill="none" stroke="var(--kingfisher)" strokeWidth="4" />
      <path d="M14 24V29 M22 24V29 M30 24V29 M38 24V29" {...thin} />
    </>
  ),
  ladder: (
    <>
      {[0, 1, 2, 3, 4, 5].map((n) => (
        <path
          key={n}
          d={`M${9 + 9 * n} 12L${12 + 9 * n} 22A4 4 0 1 1 ${6 + 9 * n} 22Z`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={0.6 + 0.35 * n}
        />
      ))}
    </>
  ),
  'tell-tale': (
    <>
      <rect x="12" y="3" width="40" height="38" {...under} />
      <circle cx="26" cy="16" r="7" {...print} />
      <path d="M45 26L48 34A4 4 0 1 1 42 34Z" {...blade} />
    </>
  ),
  offcut: (
    <>
      <rect x="12" y="3" width="40" height="38" {...under} />
      <path d="M12 3H52V22H34V30H12Z" fill="var(--rule)" />
      <path d="M52 22H34V30H12" {...blade} />
    </>
  ),
  laminate: (
    <>
      <rect x="6" y="26" width="52" height="7" {...under} />
      <rect x="6" y="18" width="52" height="8" {...face} />
      <path d="M6 15H40C48 15 52 11 57 5" {...blade} />
    </>
  ),
};

export const TermPicture = ({ term }: { term: string }) => (
  <svg viewBox="0 0 64 44" className="drawing h-11 w-16 shrink-0" aria-hidden>
    {PICTURES[term]}
  </svg>
);
