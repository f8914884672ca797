import { useId, useState } from 'react';

import { type Evening, useChangeEvening } from '../api/finish';
import { Button } from '../kit/Button';
import { Fold } from '../kit/Fold';
import { NumberField } from '../kit/NumberField';
import { clockTime } from '../kit/clock';

/** When it begins, when it should end, when nobody is there, and what the places hold. */
export function TimesFold({ evening }: { evening: Evening }) {
  const change = useChangeEvening();
  const { begins, done_by, away, places } = evening;
  const [gone, setGone] = useState({ begins: '', ends: '' });
  const put = (more: Partial<{ begins: string | null; done_by: string | null }>) =>
    change.mutate({ begins: begins ?? null, done_by: done_by ?? null, ...more });
  const summary = [
    begins ? `from ${clockTime(begins)}` : 'from the first step on',
    done_by ? `to be done by ${clockTime(done_by)}` : '',
    away.length
      ? `away ${away.map((one) => `${clockTime(one.begins)} to ${clockTime(one.ends)}`).join(', ')}`
      : '',
  ].filter(Boolean);
  return (
    <div className="print:hidden">
      <Fold title="Times and places" summary={summary.join('; ')}>
        <div className="flex flex-wrap items-end gap-4">
          <Time label="Begins" value={begins ?? ''} onChange={(time) => put({ begins: time || null })} />
          <Time label="Done by" value={done_by ?? ''} onChange={(time) => put({ done_by: time || null })} />
          {Object.entries(places).map(([place, holds]) => (
            <NumberField
              key={place}
              label={place[0]?.toUpperCase() + place.slice(1)}
              unit="at once"
              value={holds}
              onChange={(many) =>
                change.mutate({
                  begins: begins ?? null,
                  done_by: done_by ?? null,
                  places: { [place]: Math.round(many) },
                })
              }
            />
          ))}
        </div>
        <div className="flex flex-wrap items-end gap-4">
          <Time
            label="Away from"
            value={gone.begins}
            onChange={(time) => setGone({ ...gone, begins: time })}
          />
          <Time label="until" value={gone.ends} onChange={(time) => setGone({ ...gone, ends: time })} />
          <Button
            look="act"
            disabled={!gone.begins || !gone.ends}
            onClick={() => {
              change.mutate({ begins: begins ?? null, done_by: done_by ?? null, away: [...away, gone] });
              setGone({ begins: '', ends: '' });
            }}
          >
            Keep these hours free
          </Button>
          {away.length > 0 && (
            <Button
              look="bare"
              onClick={() => change.mutate({ begins: begins ?? null, done_by: done_by ?? null, away: [] })}
            >
              I am there all evening
            </Button>
          )}
        </div>
      </Fold>
    </div>
  );
}

function Time({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange: (time: string) => void;
}) {
  const id = useId();
  return (
    <span className="flex flex-col gap-0.5">
      <label htmlFor={id} className="text-sm">
        {label}
      </label>
      <input
        id={id}
        type="datetime-local"
        className="field"
        value={value.slice(0, 16)}
        onChange={(event) => onChange(event.target.value)}
      />
    </span>
  );
}
