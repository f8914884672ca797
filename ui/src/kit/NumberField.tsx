import { TypedField } from './TypedField';
import { readNumber } from './useDraft';

interface Props {
  label: string;
  value: number;
  /** What stands behind the number. */
  unit: string;
  least?: number;
  most?: number;
  onChange: (value: number) => void;
}

/** A number in a unit of its own. */
export const NumberField = ({ label, value, unit, least, most, onChange }: Props) => (
  <TypedField
    label={label}
    shown={String(value)}
    unit={unit}
    read={(text) => readNumber(text, { least, most })}
    onChange={onChange}
  />
);
