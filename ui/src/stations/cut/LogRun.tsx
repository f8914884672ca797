import { useState } from 'react';

import { type Cut, type Outcome, useCare, useLogRun } from '../../api/cut';
import { useCatalog } from '../../api/jobs';
import type { View } from '../../api/view';
import { Button } from '../../kit/Button';
import { CountField } from '../../kit/CountField';
import { Options } from '../../kit/Options';
import { Window } from '../../kit/Window';
import { WasRead, type WasReadValue } from '../../look/WasRead';
import { WasSet, type WasSetValue } from '../../look/WasSet';

interface Props {
  view: View;
  plan: NonNullable<View['plan']>;
  open: boolean;
  close: () => void;
}

/** A run was made: how many sheets, with which blade, and what the cut looks like. It counts for the next time. */
export function LogRun({ view, plan, open, close }: Props) {
  return (
    <Window title="Log a run" open={open} close={close}>
      <RunForm view={view} plan={plan} close={close} />
    </Window>
  );
}

function RunForm({ view, plan, close }: Omit<Props, 'open'>) {
  const log = useLogRun(view.job.id);
  const care = useCare(view.job.id).data;
  const names = useCatalog().data?.outcomes ?? [];
  const used = plan.settings.filter((setting) => setting.used);
  const [sheets, setSheets] = useState(plan.sheets.length || 1);
  const [sure, setSure] = useState(false);
  const [seen, setSeen] = useState<Partial<Record<Cut, Outcome>>>({});
  const [wasSet, setWasSet] = useState<WasSetValue>('as proposed');
  const [read, setRead] = useState<WasReadValue>(null);
  const blade = care?.blades.find((one) => one.in_machine);
  const ready = used.every((setting) => seen[setting.cut]) && (!blade || sure);
  return (
    <form
      className="flex flex-col gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        log.mutate(
          {
            sheets,
            outcomes: seen as Record<Cut, Outcome>,
            blade_id: blade?.id ?? null,
            was_set: wasSet,
            read,
          },
          { onSuccess: close },
        );
      }}
    >
      <span className="flex flex-col gap-0.5 text-sm">
        Sheets that were cut
        <CountField label="Sheets that were cut" value={sheets} most={1000} onChange={setSheets} />
      </span>
      {blade && (
        <label className="flex gap-2">
          <input
            type="checkbox"
            className="mt-1 size-4 accent-kingfisher"
            checked={sure}
            onChange={(event) => setSure(event.target.checked)}
          />
          <span>
            The blade in the machine was <b>{blade.name}</b>, {blade.blade.angle}°, at{' '}
            {Math.round(blade.sharpness * 100)} % of its edge.
          </span>
        </label>
      )}
      {(plan.by_program || plan.marks.length > 0) && <WasRead value={read} onChange={setRead} />}
      <WasSet proposed={used.map((setting) => setting.to_set)} value={wasSet} onChange={setWasSet} />
      {used.map((setting) => (
        <section key={setting.cut} aria-label={`${setting.cut} cut`} className="flex flex-col gap-1.5">
          <h3 className="font-bold">
            {setting.cut === 'kiss' ? (plan.by_program ? 'The cut' : 'The kiss cut') : 'The cut through'}{' '}
            looks
          </h3>
          <Options
            label={`What the ${setting.cut} cut looks like`}
            columns={3}
            options={names.filter((one) => setting.outcomes.includes(one.key as Outcome))}
            value={seen[setting.cut] ?? null}
            onChange={(outcome) => setSeen({ ...seen, [setting.cut]: outcome as Outcome })}
          />
        </section>
      ))}
      {!blade && (
        <p className="text-sm text-soft">
          Vamper does not know which blade is in this machine. Say so under “Blade and mat”, and its metres
          are counted.
        </p>
      )}
      <Button type="submit" look="main" className="self-start" disabled={!ready || log.isPending}>
        Log the run
      </Button>
    </form>
  );
}
