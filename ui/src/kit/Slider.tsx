import { useId } from 'react';

import { LengthField } from './LengthField';
import { showLength, useUnit } from './units';
import { useDrag } from './useDrag';

interface Props {
  label: string;
  value: number;
  min?: number;
  max: number;
  step?: number;
  hint?: string;
  /** Told of every movement, to show what it would do. */
  onMove?: (mm: number) => void;
  /** Told where the slider was let go. */
  onChange: (mm: number) => void;
}

/** A length on a slider; the typed field takes what the slider cannot reach. */
export function Slider({ label, value, min = 0, max, step = 0.1, hint, onMove, onChange }: Props) {
  const id = useId();
  const unit = useUnit((state) => state.unit);
  const { shown, move, letGo } = useDrag(value, onMove, onChange);
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
        min={min}
        max={max}
        step={step}
        value={Math.max(min, Math.min(shown, max))}
        aria-valuetext={showLength(shown, unit)}
        onBlur={letGo}
        onPointerUp={letGo}
        onChange={(event) => move(Number(event.target.value))}
      />
      {hint && <p className="text-sm text-soft">{hint}</p>}
    </div>
  );
}
