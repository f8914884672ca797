/** What prints, and what is made: small drawings (80 × 46) for the questions of the first run. */
import type { ReactNode } from 'react';

import type { Schemas } from '../api/client';

const line = { fill: 'none', stroke: 'var(--ink)', strokeWidth: 1.6 } as const;
const ink = { fill: 'var(--kingfisher)' } as const;
const body = { fill: 'var(--tray)', stroke: 'var(--ink)', strokeWidth: 1.6 } as const;

const PAGE = <path d="M24 26h32v16H24z M29 31h22 M29 36h14" {...line} fill="var(--paper)" />;

export const PRINTER_PICTURES: Record<Schemas['PrinterKind'], ReactNode> = {
  inkjet: (
    <>
      <path d="M28 4h24v12H28z" {...line} />
      <rect x="14" y="15" width="52" height="15" rx="3" {...body} />
      <path d="M40 18c-3 4-4 5-4 7a4 4 0 0 0 8 0c0-2-1-3-4-7z" {...ink} />
      {PAGE}
    </>
  ),
  laser: (
    <>
      <rect x="14" y="5" width="52" height="25" rx="2" {...body} />
      <path d="M20 12h40" {...line} />
      <path d="M46 18l-5 6h5l-5 6" {...line} stroke="var(--kingfisher)" strokeWidth={2.2} />
      {PAGE}
    </>
  ),
};

export const MAKE_PICTURES: Record<string, ReactNode> = {
  stickers: (
    <>
      <rect x="22" y="5" width="36" height="36" rx="2" {...body} />
      {[31, 49].map((x) => [15, 31].map((y) => <circle key={`${x}.${y}`} cx={x} cy={y} r="6" {...ink} />))}
    </>
  ),
  labels: (
    <>
      <path d="M28 12v25a4 4 0 0 0 4 4h16a4 4 0 0 0 4-4V12z M26 5h28v7H26z" {...body} />
      <rect x="31" y="20" width="18" height="13" rx="1.5" {...ink} />
    </>
  ),
  cups: (
    <>
      <path d="M22 8h30v26a6 6 0 0 1-6 6H28a6 6 0 0 1-6-6z M52 14h6a7 7 0 0 1 0 15h-6" {...body} />
      <circle cx="37" cy="23" r="7" {...ink} />
    </>
  ),
  cloth: (
    <>
      <path d="M30 5 16 12l5 11 6-3v22h26V20l6 3 5-11-14-7c-4 5-16 5-20 0z" {...body} />
      <circle cx="40" cy="26" r="6" {...ink} />
    </>
  ),
  outdoors: (
    <>
      <path d="M6 27h68l-8 13H18z" {...body} />
      <path d="M38 27V6l18 15H38" {...line} />
      <path d="M24 31h22v5H24z" {...ink} />
    </>
  ),
  cards: (
    <>
      <path d="M16 10h24v30H16z M40 10l22-5v30l-22 5z" {...body} />
      <path d="M28 19c-5-5-9 2 0 8 9-6 5-13 0-8z" {...ink} />
    </>
  ),
};
