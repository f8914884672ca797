import { useId, useState } from 'react';

interface Props {
  label: string;
  value: number;
  least?: number;
  most?: number;
  onChange: (count: number) => void;
}

/** A whole number with a button on each side; taken over on Enter or when the field is left. */
export function CountField({ label, value, least = 1, most = 9999, onChange }: Props) {
  const id = useId();
  const [draft, setDraft] = useState<string | null>(null);
  const take = (text: string | null) => {
    setDraft(null);
    const count = Math.round(Number(text));
    if (text !== null && Number.isFinite(count) && count >= least && count <= most && count !== value)
      onChange(count);
  };
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
        value={draft ?? String(value)}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={() => take(draft)}
        onKeyDown={(event) => event.key === 'Enter' && take(draft)}
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
    </span>
  );
}
