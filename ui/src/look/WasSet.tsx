/** What was set on the machine: filled in with what was proposed, changed in place, or not remembered. */
import type { Schemas } from '../api/client';
import { useCatalog } from '../api/jobs';
import { Button } from '../kit/Button';
import { CountField } from '../kit/CountField';
import { NumberField } from '../kit/NumberField';
import { Select } from '../kit/Select';
import { PressureChoice } from './PressureChoice';

type Proposed = Schemas['ProposedOut'];
/** As it was proposed, something else for each cut, or null: nobody remembers. */
export type WasSetValue = Exclude<Schemas['RunIn']['was_set'], undefined>;

const CUTS: Record<Proposed['cut'], string> = { kiss: 'Kiss cut', through: 'Cut through' };

interface Props {
  proposed: Proposed[];
  value: WasSetValue;
  onChange: (value: WasSetValue) => void;
}

export function WasSet({ proposed, value, onChange }: Props) {
  const catalog = useCatalog().data;
  if (proposed.length === 0 || proposed.every((one) => one.force_gf === null && !one.settings.length))
    return null;
  const asked = proposed.map(entered);
  if (value === 'as proposed' && proposed.every((one) => one.setting || one.force_gf !== null))
    return (
      <p className="flex flex-wrap items-baseline gap-x-2 text-sm">
        <span>
          Set to: <b>{proposed.map(words).join(', ')}</b>
        </span>
        <Button look="bare" onClick={() => onChange(asked)}>
          Something else was set
        </Button>
        <Button look="bare" onClick={() => onChange(null)}>
          I do not remember
        </Button>
      </p>
    );
  if (value === null)
    return (
      <p className="flex flex-wrap items-baseline gap-x-2 text-sm text-soft">
        Without knowing what was set, this run says nothing about pressure.
        <Button look="bare" onClick={() => onChange(asked)}>
          Fill it in after all
        </Button>
      </p>
    );
  const all = value === 'as proposed' ? asked : value;
  const put = (cut: Proposed['cut'], part: Partial<(typeof all)[number]>) =>
    onChange(all.map((one) => (one.cut === cut ? { ...one, ...part } : one)));
  return (
    <fieldset className="flex flex-wrap items-end gap-x-8 gap-y-1.5">
      <legend className="mb-0.5 text-sm font-bold">What was set on the machine?</legend>
      {proposed.map((one) => {
        const said = all.find(({ cut }) => cut === one.cut) ?? entered(one);
        return (
          <div key={one.cut} className="flex flex-wrap items-start gap-x-4 gap-y-1.5">
            {one.settings.length > 0 ? (
              <>
                <Select
                  label={`${CUTS[one.cut]}, setting`}
                  options={one.settings.map(({ name }) => ({ key: name, name }))}
                  value={said.setting}
                  onChange={(setting) => put(one.cut, { setting, pressure: null })}
                />
                <PressureChoice
                  pressures={one.settings.find(({ name }) => name === said.setting)?.pressures ?? []}
                  value={said.pressure ?? null}
                  onChange={(pressure) => put(one.cut, { pressure })}
                />
              </>
            ) : (
              <NumberField
                label={`${CUTS[one.cut]}, force`}
                value={said.force_gf ?? 0}
                unit="gf"
                onChange={(force_gf) => put(one.cut, { force_gf })}
              />
            )}
            <span className="flex flex-col gap-0.5 text-sm">
              Passes
              <CountField
                label={`${CUTS[one.cut]}, passes`}
                value={said.passes}
                most={catalog?.most_passes ?? 1}
                onChange={(passes) => put(one.cut, { passes })}
              />
            </span>
          </div>
        );
      })}
      <Button look="bare" onClick={() => onChange(null)}>
        I do not remember
      </Button>
    </fieldset>
  );
}

/** What the fields hold to begin with. */
const entered = ({ cut, passes, force_gf, setting, pressure, settings }: Proposed) => ({
  cut,
  passes,
  force_gf,
  setting: setting || (force_gf === null ? (settings[0]?.name ?? '') : ''),
  pressure,
});

const words = ({ cut, passes, force_gf, setting, pressure }: Proposed) => {
  const pressed = pressure && pressure !== 'usual' ? `, ${pressure} pressure` : '';
  const times = passes > 1 ? `, ${passes} passes` : '';
  return setting ? `“${setting}”${pressed}${times}` : `${CUTS[cut].toLowerCase()} ${force_gf} gf × ${passes}`;
};
