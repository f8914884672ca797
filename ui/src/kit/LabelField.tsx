import { TypedField } from './TypedField';
import { heatUnit, plainHeat, readHeat, useUnit } from './units';
import { readNumber } from './useDraft';

interface Props {
  label: { ask: string; unit: string; value: number | null };
  put: (value: number | null) => void;
}

/** One figure of a product's label; empty until somebody has read it. */
export function LabelField({ label, put }: Props) {
  const unit = useUnit((state) => state.unit);
  const isHeat = label.unit === '°C';
  const plain = (value: number) => (isHeat ? plainHeat(value, unit) : String(value));
  return (
    <TypedField
      label={label.ask}
      shown={label.value === null ? '' : plain(label.value)}
      unit={isHeat ? heatUnit(unit) : label.unit}
      place="beside"
      width="w-16"
      placeholder="–"
      read={(text) => {
        if (!isHeat) return readNumber(text);
        const celsius = readHeat(text, unit);
        return celsius === null ? { wrong: 'Type a heat such as 160 °C or 320 °F.' } : { value: celsius };
      }}
      onChange={put}
      clear={() => put(null)}
    />
  );
}
