import { useId } from 'react';

import { type Typed, useDraft } from './useDraft';

interface Props<T> {
  label: string;
  /** The value as the field shows it. */
  shown: string;
  read: (text: string) => Typed<T>;
  onChange: (value: T) => void;
  clear?: () => void;
  /** What stands behind the field. */
  unit?: string;
  hint?: string;
  placeholder?: string;
  /** Above the field, before it on its line, or for those who do not see it. */
  place?: 'above' | 'beside' | 'unseen';
  width?: string;
  /** A length may be typed with its unit and as a fraction, so no keyboard of figures alone. */
  figuresOnly?: boolean;
}

const AROUND = {
  above: 'flex flex-col gap-0.5',
  beside: 'flex items-center justify-between gap-3',
  unseen: '',
};

/** A field that something is typed into, with its label, its unit, and a sentence where it cannot be read. */
export function TypedField<T>({
  label,
  shown,
  read,
  onChange,
  clear,
  unit,
  hint,
  placeholder,
  place = 'above',
  width = 'w-20',
  figuresOnly = true,
}: Props<T>) {
  const id = useId();
  const { wrong, field } = useDraft({ shown, read, take: onChange, clear });
  return (
    <div>
      <div className={AROUND[place]}>
        <label htmlFor={id} className={place === 'unseen' ? 'sr-only' : 'text-sm'}>
          {label}
        </label>
        <span className="flex shrink-0 items-baseline gap-1.5">
          <input
            id={id}
            inputMode={figuresOnly ? 'decimal' : 'text'}
            className={`field figure ${width}`}
            placeholder={placeholder}
            aria-describedby={wrong === null ? undefined : `${id}-wrong`}
            {...field}
          />
          {unit !== undefined && (
            <span className={`text-sm text-soft ${place === 'beside' ? 'w-10' : ''}`}>{unit}</span>
          )}
        </span>
      </div>
      {wrong !== null && (
        <p id={`${id}-wrong`} role="alert" className="text-sm text-rowan">
          {wrong}
        </p>
      )}
      {hint && <p className="text-sm text-soft">{hint}</p>}
    </div>
  );
}
