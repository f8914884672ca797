import { useId, useState } from 'react';

import { plainLength, readLength, useUnit } from './units';

interface Props {
  label: string;
  value: number;
  onChange: (mm: number) => void;
  hint?: string;
  bare?: boolean;
}

/** A length that can be typed in any unit; it is taken over on Enter or when the field is left. */
export function LengthField({ label, value, onChange, hint, bare = false }: Props) {
  const id = useId();
  const unit = useUnit((state) => state.unit);
  const [draft, setDraft] = useState<string | null>(null);
  const [wrong, setWrong] = useState(false);
  const take = () => {
    if (draft === null) return;
    const mm = readLength(draft, unit);
    setWrong(mm === null);
    if (mm === null) return;
    setDraft(null);
    if (Math.abs(mm - value) > 1e-6) onChange(Number(mm.toFixed(4)));
  };
  return (
    <div className={bare ? '' : 'flex flex-col gap-0.5'}>
      <label htmlFor={id} className={bare ? 'sr-only' : 'text-sm'}>
        {label}
      </label>
      <span className="flex items-center gap-1.5">
        <input
          id={id}
          className="field figure w-20"
          value={draft ?? plainLength(value, unit)}
          onChange={(event) => setDraft(event.target.value)}
          onBlur={take}
          onKeyDown={(event) => {
            if (event.key === 'Enter') take();
            if (event.key === 'Escape') {
              setDraft(null);
              setWrong(false);
            }
          }}
          aria-invalid={wrong}
          aria-describedby={wrong ? `${id}-wrong` : undefined}
        />
        <span className="text-sm text-soft">{unit}</span>
      </span>
      {wrong && (
        <span id={`${id}-wrong`} className="text-sm text-rowan">
          Type a length such as 60, 6 cm or 2 1/2&quot;.
        </span>
      )}
      {hint && <span className="text-sm text-soft">{hint}</span>}
    </div>
  );
}
