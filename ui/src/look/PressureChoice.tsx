/** Less, usual or more pressure, where a setting has that choice. */
import type { Pressure } from '../api/cut';
import { Button } from '../kit/Button';

interface Props {
  pressures: readonly Pressure[];
  value: Pressure | null;
  onChange: (pressure: Pressure) => void;
}

export function PressureChoice({ pressures, value, onChange }: Props) {
  if (pressures.length === 0) return null;
  return (
    <div role="group" aria-label="Pressure" className="flex flex-col gap-0.5 text-sm">
      Pressure
      <span className="flex gap-1">
        {pressures.map((one) => {
          const chosen = one === (value ?? 'usual');
          return (
            <Button
              key={one}
              look={chosen ? 'act' : 'plain'}
              className="px-2 py-1"
              aria-pressed={chosen}
              onClick={() => onChange(one)}
            >
              {one}
            </Button>
          );
        })}
      </span>
    </div>
  );
}
