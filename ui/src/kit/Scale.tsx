import { useId } from 'react';

import { useDrag } from './useDrag';

interface Props {
  label: string;
  value: number;
  min: number;
  max: number;
  step: number;
  words: (value: number) => string;
  hint?: string;
  onMove: (value: number) => void;
  onChange: (value: number) => void;
}

/** A bare number on a slider, told in words. */
export function Scale({ label, value, min, max, step, words, hint, onMove, onChange }: Props) {
  const id = useId();
  const { shown, move, letGo } = useDrag(value, onMove, onChange);
  return (
    <div>
      <div className="flex items-baseline justify-between gap-2">
        <label htmlFor={id}>{label}</label>
        <span className="figure font-bold">{words(shown)}</span>
      </div>
      <input
        id={id}
        type="range"
        className="mt-1 w-full accent-kingfisher"
        min={min}
        max={max}
        step={step}
        value={shown}
        aria-valuetext={words(shown)}
        onBlur={letGo}
        onPointerUp={letGo}
        onChange={(event) => move(Number(event.target.value))}
      />
      {hint && <p className="text-sm text-soft">{hint}</p>}
    </div>
  );
}
