import type { ReactNode } from 'react';

const print = { fill: 'var(--kingfisher)', fillOpacity: 0.4 } as const;
const line = { fill: 'none', stroke: 'var(--ink)', strokeWidth: 1.4 } as const;
const thin = { fill: 'none', stroke: 'var(--soft)', strokeWidth: 1 } as const;
const bad = { fill: 'none', stroke: 'var(--rowan)', strokeWidth: 1.8 } as const;
const soft = { fill: 'var(--tray)', stroke: 'var(--soft)', strokeWidth: 1 } as const;
const fault = { fill: 'var(--rowan)', fillOpacity: 0.45 } as const;

const SHEET = <rect x="10" y="3" width="44" height="38" rx="1" {...soft} />;
const MARKS = <path d="M14 13V7H20 M44 7H50V13 M50 31V37H44 M20 37H14V31" {...thin} />;
const THREE = [18, 32, 46];
const LAYERS = (
  <>
    <rect x="6" y="14" width="52" height="9" {...print} />
    <rect x="6" y="23" width="52" height="7" {...soft} />
  </>
);

/** Three prints in a row, each cut so far beside its place. */
const cutOff = (by: readonly (readonly [number, number])[]) => (
  <>
    {THREE.map((x) => (
      <circle key={x} cx={x} cy="22" r="4.5" {...print} />
    ))}
    {THREE.map((x, place) => (
      <circle key={x} cx={x + (by[place]?.[0] ?? 0)} cy={22 + (by[place]?.[1] ?? 0)} r="6" {...bad} />
    ))}
  </>
);

/** Three cuts into a face on its backing, each so deep. */
const cutDeep = (depths: readonly (readonly [number, boolean])[]) => (
  <>
    {LAYERS}
    {depths.map(([depth, wrong], place) => (
      <path key={place} d={`M${16 + 16 * place} 8V${14 + depth}`} {...(wrong ? bad : line)} />
    ))}
  </>
);

const PICTURES: Record<string, ReactNode> = {
  'marks-not-found': (
    <>
      {SHEET}
      {MARKS}
      <path d="M28 18c0-5 8-5 8 0 0 4-4 3-4 7 M32 29v1.5" {...bad} />
    </>
  ),
  'marks-wrong-place': (
    <>
      {SHEET}
      {MARKS}
      <circle cx="32" cy="22" r="5" {...print} />
      <circle cx="32" cy="22" r="8.5" {...bad} strokeDasharray="3 2" />
    </>
  ),
  'cut-off-even': cutOff([
    [3, 2],
    [3, 2],
    [3, 2],
  ]),
  'cut-off-growing': cutOff([
    [0.5, 0],
    [2.5, 0],
    [5, 0],
  ]),
  'cut-off-feed': (
    <>
      {cutOff([
        [0, 1],
        [0, 3],
        [0, 5],
      ])}
      <path d="M58 12v18m-2.5-3 2.5 3 2.5-3" {...thin} />
    </>
  ),
  'cut-off-later': (
    <>
      <rect x="5" y="8" width="24" height="28" {...soft} />
      <rect x="35" y="8" width="24" height="28" {...soft} />
      <circle cx="17" cy="22" r="5" {...print} />
      <circle cx="17" cy="22" r="7" {...line} />
      <circle cx="47" cy="22" r="5" {...print} />
      <circle cx="50" cy="24" r="7" {...bad} />
    </>
  ),
  'not-through': cutDeep([
    [5, true],
    [5, true],
    [5, true],
  ]),
  'not-through-places': cutDeep([
    [11, false],
    [4, true],
    [11, false],
  ]),
  'backing-cut': cutDeep([
    [11, false],
    [22, true],
    [22, true],
  ]),
  'corners-torn': (
    <>
      <path d="M18 10H40l3 4-3 2 5 3-3 3 2 12H18Z" {...print} />
      <path d="M40 10l3 4-3 2 5 3-3 3" {...bad} />
    </>
  ),
  'pieces-lifted': (
    <>
      <rect x="6" y="32" width="52" height="5" {...soft} />
      <path d="M12 32h16" {...line} />
      <path d="M34 31 54 18" {...bad} strokeWidth={3} />
    </>
  ),
  'print-shifted': (
    <>
      {SHEET}
      <rect x="18" y="10" width="22" height="20" {...thin} strokeDasharray="3 2" />
      <rect x="25" y="16" width="22" height="20" {...fault} />
    </>
  ),
  'print-scaled': (
    <>
      {SHEET}
      <rect x="18" y="9" width="29" height="26" {...fault} />
      <rect x="22" y="13" width="21" height="18" {...thin} strokeDasharray="3 2" />
    </>
  ),
  'print-missing': (
    <>
      <path d="M32 8A14 14 0 0 0 32 36Z" {...print} />
      <path d="M32 8A14 14 0 0 1 32 36" {...bad} strokeDasharray="3 2" />
    </>
  ),
  'print-lines': (
    <>
      <rect x="14" y="8" width="36" height="28" {...print} />
      <path d="M14 14H50M14 21H50M14 28H50" stroke="var(--rowan)" strokeWidth="2" />
    </>
  ),
  'ink-smears': (
    <>
      <circle cx="20" cy="22" r="8" {...print} />
      <path d="M27 17h26M28 22h22M27 27h18" {...bad} strokeOpacity={0.7} />
    </>
  ),
  'ink-runs-wet': (
    <>
      <path d="M16 8H48V20H16Z" {...print} />
      <path d="M22 20v10M30 20v16M39 20v8" {...bad} />
      <path d="M54 10c-3 4-3 7 0 7s3-3 0-7Z" {...thin} />
    </>
  ),
  'colour-dull': (
    <>
      <rect x="9" y="10" width="21" height="24" fill="var(--kingfisher)" />
      <rect x="34" y="10" width="21" height="24" fill="var(--soft)" fillOpacity="0.5" />
      <rect x="34" y="10" width="21" height="24" {...bad} />
    </>
  ),
  'border-uneven': (
    <>
      <circle cx="32" cy="22" r="15" {...line} />
      <circle cx="27" cy="22" r="8.5" {...print} />
      <path d="M36 22h10" {...bad} />
    </>
  ),
  'colour-in-border': (
    <>
      <circle cx="32" cy="22" r="17" {...line} />
      <circle cx="32" cy="22" r="14.5" {...fault} />
      <circle cx="32" cy="22" r="10" {...print} />
    </>
  ),
  'border-hole': (
    <>
      <circle cx="32" cy="22" r="15" {...line} />
      <path d="M22 28 32 12 42 28Z" {...print} />
      <circle cx="42" cy="19" r="2.6" {...bad} />
    </>
  ),
  'letters-loose': (
    <g fontFamily="var(--font-head)" fontWeight="700" fontSize="20">
      <text x="9" y="29" {...print} fillOpacity="1">
        a
      </text>
      <text x="23" y="29" {...print} fillOpacity="1">
        b
      </text>
      <text x="42" y="35" transform="rotate(24 44 30)" fill="var(--rowan)">
        c
      </text>
    </g>
  ),
  'white-rim': (
    <>
      <circle cx="32" cy="22" r="16" {...line} />
      <circle cx="32" cy="22" r="10" {...print} />
      <circle cx="32" cy="22" r="13" {...bad} strokeDasharray="2 2" />
    </>
  ),
  'sides-differ': (
    <>
      <circle cx="29" cy="21" r="12" {...line} />
      <circle cx="35" cy="25" r="12" {...bad} strokeDasharray="3 2" />
    </>
  ),
  'reads-backwards': (
    <text
      x="-40"
      y="31"
      transform="scale(-1 1)"
      fontFamily="var(--font-head)"
      fontWeight="700"
      fontSize="26"
      fill="var(--rowan)"
    >
      R
    </text>
  ),
  'film-curled': <path d="M8 32H38c12 0 14-18 3-18-9 0-9 12-1 12 5 0 6-7 1-7" {...bad} />,
  'film-torn': (
    <>
      <path d="M10 10H30l4 6-5 5 5 6-4 7H10Z" {...print} />
      <path d="M54 10H37l4 6-5 5 5 6-4 7H54Z" {...print} />
      <path d="M33.5 10l4 6-5 5 5 6-4 7" {...bad} />
    </>
  ),
  'film-stuck': (
    <>
      <path d="M14 38V16c0-6 36-6 36 0V38" {...thin} />
      <rect x="24" y="20" width="16" height="10" {...thin} strokeDasharray="3 2" />
      <rect x="20" y="26" width="16" height="10" transform="rotate(18 28 31)" {...fault} />
    </>
  ),
  'film-folds': (
    <>
      <rect x="12" y="8" width="40" height="28" {...print} />
      <path d="M18 32c6-6 2-12 8-20M30 34c4-6 1-8 5-14" {...bad} />
      <circle cx="43" cy="16" r="3" {...bad} />
      <circle cx="46" cy="27" r="2" {...bad} />
    </>
  ),
  'corners-lift': (
    <>
      <path d="M12 10H52V24L42 34H12Z" {...print} />
      <path d="M52 24 42 34 41 23Z" {...fault} />
      <path d="M52 24 42 34 41 23Z" {...bad} />
    </>
  ),
  'paper-sticks': (
    <>
      <path d="M8 34H56" {...line} />
      <path d="M8 30H30C42 30 46 22 56 12" {...thin} />
      <path d="M16 30H34v4H16Z" {...fault} />
    </>
  ),
  'light-spots': (
    <>
      <rect x="12" y="8" width="40" height="28" {...print} />
      <circle cx="24" cy="17" r="4.5" fill="var(--paper)" stroke="var(--rowan)" />
      <circle cx="40" cy="27" r="5.5" fill="var(--paper)" stroke="var(--rowan)" />
    </>
  ),
  'hole-marks': (
    <>
      <path d="M12 36V22c4-10 16-14 40-14V36Z" {...print} />
      {[22, 32, 42].map((x) => (
        <circle key={x} cx={x} cy="27" r="2.6" fill="var(--paper)" stroke="var(--rowan)" />
      ))}
      <circle cx="44" cy="17" r="2.6" fill="var(--paper)" stroke="var(--rowan)" />
    </>
  ),
  'will-not-print': (
    <>
      <path d="M22 18V5H42V18" {...thin} />
      <rect x="10" y="18" width="44" height="16" rx="2" {...soft} />
      <path d="M26 8 38 16M38 8 26 16" {...bad} />
    </>
  ),
  'sheet-creased': (
    <>
      {SHEET}
      <path d="M10 28 20 22 27 26 38 16 46 19 54 12" {...bad} />
      <path d="M14 33 26 30 40 21" {...thin} />
    </>
  ),
};

/** Whether there is a drawing of a symptom. */
export const isDrawn = (symptom: string) => symptom in PICTURES;

/** What a symptom looks like; the sentence beside it says the same. */
export function SymptomPicture({ symptom }: { symptom: string }) {
  return (
    <svg viewBox="0 0 64 44" className="h-11 w-16 shrink-0" aria-hidden>
      {PICTURES[symptom] ?? SHEET}
    </svg>
  );
}
