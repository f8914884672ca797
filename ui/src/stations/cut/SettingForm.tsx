/** What a setting carries with it on the machine: its name in the list, its own passes, the blade that is asked for. */
import { useState } from 'react';

import type { NamedSetting } from '../../api/cut';
import { Button } from '../../kit/Button';
import { CountField } from '../../kit/CountField';
import { Select } from '../../kit/Select';
import { asSentence } from '../../kit/words';

export type Changed = Partial<Pick<NamedSetting, 'name' | 'pressures' | 'gentler_than' | 'passes' | 'blade'>>;

interface Props {
  one: NamedSetting;
  most: number;
  error: string | undefined;
  keep: (changed: Changed) => void;
  close: () => void;
}

const BLADES = [
  { key: '', name: 'asks for none' },
  { key: '45', name: 'the usual one, 45°' },
  { key: '60', name: 'the deep one, 60°' },
];

export function SettingForm({ one, most, error, keep, close }: Props) {
  const [name, setName] = useState(one.name);
  const [passes, setPasses] = useState(one.passes);
  const [blade, setBlade] = useState<string>(one.blade ?? '');
  return (
    <form
      aria-label={`Name, passes and blade of ${one.name}`}
      className="col-span-full flex flex-wrap items-end gap-3 rounded-[6px] bg-tray p-2 text-sm"
      onSubmit={(event) => {
        event.preventDefault();
        keep({ name: name.trim() || one.name, passes, blade: (blade || null) as NamedSetting['blade'] });
      }}
    >
      <label className="flex flex-col gap-0.5">
        Name in the machine’s list
        <input
          className="field w-56"
          maxLength={80}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <div className="flex flex-col gap-0.5">
        Passes by itself
        <CountField label="Passes by itself" value={passes} most={most} onChange={setPasses} />
      </div>
      <Select label="Blade" options={BLADES} value={blade} onChange={setBlade} />
      <span className="flex gap-2">
        <Button type="submit" look="act">
          Keep
        </Button>
        <Button onClick={close}>Leave it</Button>
      </span>
      {error && (
        <p role="alert" className="basis-full text-rowan">
          {asSentence(error)}
        </p>
      )}
    </form>
  );
}
