import { useDraft } from './useDraft';

interface Props {
  label: string;
  value: string;
  onChange: (words: string) => void;
  hint?: string;
  most?: number;
  wide?: boolean;
}

/** A few words. */
export function WordsField({ label, value, onChange, hint, most = 120, wide = false }: Props) {
  const { field } = useDraft({
    shown: value,
    read: (text) => ({ value: text }),
    take: onChange,
    clear: () => onChange(''),
  });
  return (
    <label className="flex flex-col gap-0.5 text-sm">
      {label}
      <input
        className={`field ${wide ? 'w-80 max-w-full' : 'w-40'}`}
        maxLength={most}
        placeholder={hint}
        {...field}
      />
    </label>
  );
}
