import { useId, useState } from 'react';

interface Props {
  label: string;
  value: number;
  /** What stands behind the number. */
  unit: string;
  onChange: (value: number) => void;
}

/** A number in a unit of its own; taken over on Enter or when the field is left. */
export function NumberField({ label, value, unit, onChange }: Props) {
  const id = useId();
  const [draft, setDraft] = useState<string | null>(null);
  const take = () => {
    const typed = Number((draft ?? '').replace(',', '.'));
    setDraft(null);
    if (draft?.trim() && Number.isFinite(typed) && typed !== value) onChange(typed);
  };
  return (
    <span className="flex flex-col gap-0.5">
      <label htmlFor={id} className="text-sm">
        {label}
      </label>
      <span className="flex items-baseline gap-1.5">
        <input
          id={id}
          inputMode="decimal"
          className="field figure w-20"
          value={draft ?? String(value)}
          onChange={(event) => setDraft(event.target.value)}
          onBlur={take}
          onKeyDown={(event) => {
            if (event.key !== 'Enter') return;
            event.preventDefault();
            take();
          }}
        />
        <span className="text-sm text-soft">{unit}</span>
      </span>
    </span>
  );
}
