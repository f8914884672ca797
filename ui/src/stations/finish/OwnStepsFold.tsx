import { useState } from 'react';

import type { Changer } from '../../api/changes';
import type { Schemas } from '../../api/client';
import type { Finish } from '../../api/finish';
import { Button } from '../../kit/Button';
import { Fold } from '../../kit/Fold';
import { NumberField } from '../../kit/NumberField';
import { Select } from '../../kit/Select';

type Added = Schemas['AddedStep'];
interface Props {
  finish: Finish;
  added: Added[];
  change: Changer;
}

/** Steps by hand that the chain does not have of itself: pens after the cut, metallic paint before it. */
export function OwnStepsFold({ finish, added, change }: Props) {
  const [what, setWhat] = useState('');
  const [minutes, setMinutes] = useState(10);
  const [after, setAfter] = useState<string | null>(null);
  const put = (next: Added[]) => change({ label: 'steps of one’s own', changes: { 'finish.added': next } });
  const steps = finish.steps.filter((step) => !step.own);
  const place = after ?? '';
  return (
    <Fold title="Steps of your own" summary={added.length ? `${added.length}` : 'none'}>
      <ul className="flex flex-col gap-1.5 text-sm">
        {added.map((one, index) => (
          <li key={index} className="flex items-baseline justify-between gap-2">
            <span>
              {one.do}, {one.minutes} min a sheet
            </span>
            <Button look="bare" onClick={() => put(added.filter((_, other) => other !== index))}>
              {`Remove ${one.do}`}
            </Button>
          </li>
        ))}
      </ul>
      <label className="flex flex-col gap-0.5 text-sm">
        What is done
        <input
          className="field"
          value={what}
          maxLength={80}
          placeholder="white pen on the rims"
          onChange={(event) => setWhat(event.target.value)}
        />
      </label>
      <NumberField
        label="Minutes a sheet"
        unit="min"
        value={minutes}
        onChange={(found) => setMinutes(Math.round(found))}
      />
      <Select
        label="After"
        options={[
          { key: '', name: 'first of all' },
          ...steps.map((step) => ({ key: step.key, name: step.do })),
        ]}
        value={place}
        onChange={setAfter}
      />
      <Button
        disabled={!what.trim()}
        onClick={() => {
          put([...added, { do: what.trim(), minutes, after: place }]);
          setWhat('');
        }}
      >
        Put the step in
      </Button>
    </Fold>
  );
}
