interface Props {
  label: string;
  options: readonly { key: string; name: string }[];
  value: string;
  onChange: (key: string) => void;
  /** The label is only for who cannot see what stands beside it. */
  bare?: boolean;
}

/** One of many, told by a name. */
export function Select({ label, options, value, onChange, bare = false }: Props) {
  return (
    <label className="flex flex-col gap-0.5 text-sm">
      <span className={bare ? 'sr-only' : ''}>{label}</span>
      <select className="field" value={value} onChange={(event) => onChange(event.target.value)}>
        {options.map((option) => (
          <option key={option.key} value={option.key}>
            {option.name}
          </option>
        ))}
      </select>
    </label>
  );
}
