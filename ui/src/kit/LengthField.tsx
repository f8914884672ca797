import { TypedField } from './TypedField';
import { plainLength, readLength, useUnit } from './units';

interface Props {
  label: string;
  value: number;
  onChange: (mm: number) => void;
  hint?: string;
  bare?: boolean;
}

/** A length that can be typed in any unit. */
export function LengthField({ label, value, onChange, hint, bare = false }: Props) {
  const unit = useUnit((state) => state.unit);
  return (
    <TypedField
      label={label}
      shown={plainLength(value, unit)}
      unit={unit}
      figuresOnly={false}
      place={bare ? 'unseen' : 'above'}
      read={(text) => {
        const mm = readLength(text, unit);
        return mm === null ? { wrong: 'Type a length such as 60, 6 cm or 2 1/2".' } : { value: mm };
      }}
      onChange={(mm) => onChange(Number(mm.toFixed(4)))}
      {...(hint ? { hint } : {})}
    />
  );
}
