import { useState } from 'react';

interface Props {
  label: string;
  value: string;
  onChange: (words: string) => void;
  hint?: string;
  most?: number;
  wide?: boolean;
}

/** A few words; taken over on Enter or when the field is left. */
export function WordsField({ label, value, onChange, hint, most = 120, wide = false }: Props) {
  const [draft, setDraft] = useState<string | null>(null);
  const take = () => {
    if (draft !== null && draft !== value) onChange(draft);
    setDraft(null);
  };
  return (
    <label className="flex flex-col gap-0.5 text-sm">
      {label}
      <input
        className={`field ${wide ? 'w-80 max-w-full' : 'w-40'}`}
        value={draft ?? value}
        maxLength={most}
        placeholder={hint}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => event.key === 'Enter' && take()}
      />
    </label>
  );
}
