import { type FaultKey, useFaults } from '../../api/twin';
import { Button } from '../../kit/Button';
import { Fold } from '../../kit/Fold';

const DEVICES = [
  ['printer', 'Printer'],
  ['sensor', 'Sensor'],
  ['cutter', 'Cutter'],
] as const;

interface Props {
  faults: readonly FaultKey[];
  choose: (faults: FaultKey[]) => void;
}

/** What can be made to go wrong, device by device, to see what it does. */
export function FaultsFold({ faults, choose }: Props) {
  const known = useFaults().data ?? [];
  const toggled = (key: FaultKey) =>
    faults.includes(key) ? faults.filter((one) => one !== key) : [...faults, key];
  return (
    <Fold title="Faults on purpose" summary={faults.length ? `${faults.length} switched on` : 'none'}>
      <p className="text-sm text-soft">
        Switch a fault on, do a dry run, and see what it does to this sheet.
      </p>
      {faults.length > 0 && (
        <Button onClick={() => choose([])} className="self-start">
          Switch all off
        </Button>
      )}
      {DEVICES.map(([device, name]) => (
        <fieldset key={device} className="flex flex-col gap-1.5">
          <legend className="mb-1 font-bold">{name}</legend>
          {known
            .filter((fault) => fault.device === device)
            .map((fault) => (
              <label key={fault.key} className="flex cursor-pointer gap-2.5">
                <input
                  type="checkbox"
                  className="mt-1 size-4 shrink-0 accent-kingfisher"
                  checked={faults.includes(fault.key)}
                  onChange={() => choose(toggled(fault.key))}
                />
                <span className="leading-snug">
                  {fault.name}
                  <span className="block text-sm text-soft">{fault.words}</span>
                </span>
              </label>
            ))}
        </fieldset>
      ))}
    </Fold>
  );
}
