import { useId, useState } from 'react';

import { LengthField } from './LengthField';
import { showLength, useUnit } from './units';

interface Props {
  label: string;
  value: number;
  max: number;
  step?: number;
  hint?: string;
  onChange: (mm: number) => void;
}

/** A length on a slider; every movement is sent, and the typed field takes what the slider cannot reach. */
export function Slider({ label, value, max, step = 0.1, hint, onChange }: Props) {
  const id = useId();
  const unit = useUnit((state) => state.unit);
  const [moving, setMoving] = useState<number | null>(null);
  // What was moved to has arrived: from here on the saved value leads again.
  if (moving !== null && Math.abs(moving - value) < 1e-6) setMoving(null);
  const shown = moving ?? value;
  return (
    <div>
      <div className="flex items-center justify-between gap-2">
        <label htmlFor={id} className="font-bold">
          {label}
        </label>
        <LengthField label={`${label}, typed`} bare value={shown} onChange={onChange} />
      </div>
      <input
        id={id}
        type="range"
        className="mt-1 w-full accent-kingfisher"
        min={0}
        max={max}
        step={step}
        value={Math.min(shown, max)}
        aria-valuetext={showLength(shown, unit)}
        onBlur={() => setMoving(null)}
        onChange={(event) => {
          const mm = Number(event.target.value);
          setMoving(mm);
          onChange(mm);
        }}
      />
      {hint && <p className="text-sm text-soft">{hint}</p>}
    </div>
  );
}
