import { useId } from 'react';

import { readNumber, useDraft } from './useDraft';

interface Props {
  label: string;
  value: number;
  least?: number;
  most?: number;
  onChange: (count: number) => void;
}

/** A whole number with a button on each side. */
export function CountField({ label, value, least = 1, most = 9999, onChange }: Props) {
  const id = useId();
  const { wrong, field } = useDraft({
    shown: String(value),
    read: (text) => readNumber(text, { least, most, whole: true }),
    take: onChange,
  });
  const step = 'border border-rule bg-paper px-2 leading-6 hover:bg-tray disabled:opacity-50';
  return (
    <span className="inline-flex items-stretch">
      <label htmlFor={id} className="sr-only">
        {label}
      </label>
      <button
        type="button"
        aria-label={`${label}: one less`}
        className={`${step} rounded-l-[6px]`}
        disabled={value <= least}
        onClick={() => onChange(value - 1)}
      >
        −
      </button>
      <input
        id={id}
        inputMode="numeric"
        className="figure w-12 border-y border-rule bg-paper text-center"
        aria-describedby={wrong === null ? undefined : `${id}-wrong`}
        {...field}
      />
      <button
        type="button"
        aria-label={`${label}: one more`}
        className={`${step} rounded-r-[6px]`}
        disabled={value >= most}
        onClick={() => onChange(value + 1)}
      >
        +
      </button>
      {wrong !== null && (
        <span id={`${id}-wrong`} role="alert" className="self-center pl-2 text-sm text-rowan">
          {wrong}
        </span>
      )}
    </span>
  );
}
