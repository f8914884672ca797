/** Who leads the cut, asked once in three pictures. */
import { Radio, RadioGroup } from '@headlessui/react';

import type { Route } from '../api/program';
import { ROUTES } from './routes';

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
