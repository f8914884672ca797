import { useId, useState } from 'react';

import { heatUnit, plainHeat, readHeat, useUnit } from './units';

interface Props {
  label: { ask: string; unit: string; value: number | null };
  put: (value: number | null) => void;
}

/** One figure of a product's label; empty until somebody has read it. */
export function LabelField({ label, put }: Props) {
  const id = useId();
  const [draft, setDraft] = useState<string | null>(null);
  const unit = useUnit((state) => state.unit);
  const isHeat = label.unit === '°C';
  const plain = (value: number) => (isHeat ? plainHeat(value, unit) : String(value));
  const kept = label.value === null ? '' : plain(label.value);
  const take = () => {
    const typed = (draft ?? '').trim();
    setDraft(null);
    if (draft === null || typed === kept) return;
    if (typed === '') put(null);
    else {
      const read = isHeat ? readHeat(typed, unit) : Number(typed.replace(',', '.'));
      if (read !== null && Number.isFinite(read)) put(read);
    }
  };
  return (
    <span className="flex items-center justify-between gap-3">
      <label htmlFor={id} className="text-sm">
        {label.ask}
      </label>
      <span className="flex shrink-0 items-baseline gap-1.5">
        <input
          id={id}
          inputMode="decimal"
          className="field figure w-16"
          placeholder="–"
          value={draft ?? kept}
          onChange={(event) => setDraft(event.target.value)}
          onBlur={take}
          onKeyDown={(event) => {
            if (event.key !== 'Enter') return;
            event.preventDefault();
            take();
          }}
        />
        <span className="w-10 text-sm text-soft">{isHeat ? heatUnit(unit) : label.unit}</span>
      </span>
    </span>
  );
}
