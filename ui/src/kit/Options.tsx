import { Radio, RadioGroup } from '@headlessui/react';

interface Option {
  key: string;
  name: string;
  hint?: string;
}

interface Props {
  label: string;
  options: Option[];
  value: string | null;
  onChange: (key: string) => void;
  columns?: number;
}

/** One of a few, all of them in sight. */
export function Options({ label, options, value, onChange, columns = 1 }: Props) {
  return (
    <RadioGroup
      value={value ?? ''}
      onChange={onChange}
      aria-label={label}
      className="grid gap-1.5"
      style={{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}
    >
      {options.map((option) => (
        <Radio
          key={option.key}
          value={option.key}
          className="cursor-pointer rounded-[6px] border border-rule bg-paper px-2.5 py-1.5 text-sm leading-tight data-checked:border-kingfisher data-checked:shadow-[inset_0_0_0_1px_var(--kingfisher)]"
        >
          <span className="block font-bold">{option.name}</span>
          {option.hint && <span className="block text-soft">{option.hint}</span>}
        </Radio>
      ))}
    </RadioGroup>
  );
}
