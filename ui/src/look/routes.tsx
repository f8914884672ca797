/** Who leads the cut, in three pictures (80 × 46). */
import type { ReactNode } from 'react';

import type { Route } from '../api/program';

const line = { fill: 'none', stroke: 'var(--ink)', strokeWidth: 1.6 } as const;

/** A picture goes into the machine, which adds its own frame. */
const PROGRAM = (
  <>
    <rect x="5" y="9" width="22" height="28" rx="2" {...line} />
    <circle cx="16" cy="20" r="6" fill="var(--kingfisher)" />
    <path d="M31 23h10m-4-4 4 4-4 4" {...line} />
    <rect x="46" y="5" width="29" height="36" rx="2" {...line} />
    <rect x="50" y="9" width="21" height="28" {...line} strokeWidth={2.6} />
    <circle cx="60.5" cy="21" r="6" fill="var(--kingfisher)" />
    <circle cx="60.5" cy="21" r="8.5" {...line} strokeDasharray="2 2" />
  </>
);
/** A page and a line for the blade, each by itself. */
const FILES = (
  <>
    <rect x="7" y="5" width="29" height="36" rx="2" {...line} />
    <path d="M11 15V9h6M32 15V9h-6M11 31v6h6M32 31v6h-6" {...line} strokeWidth={2.4} />
    <circle cx="21.5" cy="23" r="6" fill="var(--kingfisher)" />
    <rect x="46" y="5" width="29" height="36" rx="2" {...line} />
    <circle cx="60.5" cy="23" r="8.5" {...line} strokeDasharray="2 2" />
    <path d="M69 12l-3 6" {...line} />
  </>
);
const HAND = (
  <>
    <circle cx="40" cy="23" r="12" {...line} strokeDasharray="3 2.5" />
    <circle cx="40" cy="23" r="7" fill="var(--kingfisher)" />
    <path d="M52 34 66 12M66 34 52 12" {...line} strokeWidth={2} />
    <circle cx="50.5" cy="37" r="3.4" {...line} />
    <circle cx="67.5" cy="37" r="3.4" {...line} />
  </>
);

export const ROUTES: readonly (readonly [Route, string, string, ReactNode])[] = [
  ['program', 'A machine with its own program, from a picture', 'the usual way at home', PROGRAM],
  ['files', 'A machine that takes cut files', 'SVG, DXF or HP-GL, and reads marks that Vamper prints', FILES],
  ['hand', 'Scissors or a guillotine', 'guide lines and straight rows', HAND],
];
