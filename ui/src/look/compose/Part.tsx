import type { ReactNode } from 'react';

import type { Composition } from '../../api/compose';

export interface PartProps {
  composition: Composition;
  set: (part: Partial<Composition>) => void;
}

export const FIELDS = 'grid grid-cols-[repeat(auto-fit,minmax(6.5rem,1fr))] gap-x-3 gap-y-2';

export const heightOf = (base: Composition['base']) =>
  base.shape === 'circle' ? base.width_mm : (base.height_mm ?? base.width_mm);

export const swap = <T,>(all: T[], index: number, part: Partial<T>) =>
  all.map((one, n) => (n === index ? { ...one, ...part } : one));

/** One sort of things on a piece, under its heading. */
export function Part({
  title,
  action,
  children,
}: {
  title: string;
  action?: ReactNode;
  children: ReactNode;
}) {
  return (
    <section
      aria-label={title}
      className="flex flex-col gap-2 border-t border-rule pt-3 first:border-0 first:pt-0"
    >
      <div className="flex items-center justify-between">
        <h3 className="font-bold">{title}</h3>
        {action}
      </div>
      {children}
    </section>
  );
}

export function Colour({
  label,
  value,
  onChange,
  swatches = [],
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  /** Colours of the pictures beside it, one press each. */
  swatches?: readonly string[];
}) {
  return (
    <div className="flex items-end gap-1">
      <label className="flex flex-col text-sm">
        {label}
        <input type="color" value={value} onChange={(event) => onChange(event.target.value)} />
      </label>
      {swatches.map((colour) => (
        <button
          key={colour}
          type="button"
          aria-label={`The picture’s ${colour}`}
          title={`from the picture: ${colour}`}
          className="h-6 w-6 rounded-[4px] border border-rule"
          style={{ background: colour }}
          onClick={() => onChange(colour)}
        />
      ))}
    </div>
  );
}
