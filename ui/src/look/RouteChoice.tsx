/** Who leads the cut, asked once in three pictures. */
import { Radio, RadioGroup } from '@headlessui/react';

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

const ROUTES: readonly (readonly [Route, string, string, React.ReactNode])[] = [
  ['program', 'Your machine’s own program prints and cuts a picture', 'the usual way at home', PROGRAM],
  ['files', 'It takes cut files', 'SVG, DXF or HP-GL, and reads marks that Vamper prints', FILES],
  ['hand', 'Scissors or a guillotine', 'guide lines and straight rows', HAND],
];

interface Props {
  value: Route | null;
  onChange: (route: Route) => void;
}

export function RouteChoice({ value, onChange }: Props) {
  return (
    <RadioGroup
      value={value ?? ''}
      onChange={(route) => onChange(route as Route)}
      aria-label="Who leads the cut"
      className="grid gap-2 sm:grid-cols-3"
    >
      {ROUTES.map(([key, name, hint, picture]) => (
        <Radio
          key={key}
          value={key}
          className="flex cursor-pointer flex-col gap-1 rounded-[6px] border border-rule bg-paper p-2 text-sm leading-tight data-checked:border-kingfisher data-checked:shadow-[inset_0_0_0_1px_var(--kingfisher)]"
        >
          <svg viewBox="0 0 80 46" className="h-12 self-start" aria-hidden>
            {picture}
          </svg>
          <span className="font-bold">{name}</span>
          <span className="text-soft">{hint}</span>
        </Radio>
      ))}
    </RadioGroup>
  );
}
