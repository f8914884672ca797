import { useState } from 'react';

import type { Changer } from '../../api/changes';
import type { Schemas } from '../../api/client';
import type { Force } from '../../api/cut';
import type { View } from '../../api/view';
import { Button } from '../../kit/Button';
import { Fold } from '../../kit/Fold';
import { showSpeed, useUnit } from '../../kit/units';
import { DepthPicture } from './DepthPicture';
import { LadderFiles } from './LadderFiles';
import { LogRun } from './LogRun';
import { Readings } from './Readings';

interface Props {
  view: View;
  plan: NonNullable<View['plan']>;
  setting: Schemas['SettingOut'];
  force: Force;
  change: Changer;
  sheet: number;
}

/** Today's proposal in the machine's own words, its chance, the passes with both figures, and the reasons. */
export function ForcePanel({ view, plan, setting, force, change, sheet }: Props) {
  const unit = useUnit((state) => state.unit);
  const [running, setRunning] = useState(false);
  const jobId = view.job.id;
  return (
    <>
      <section aria-label={`${setting.cut} cut`} className="flex flex-col gap-1.5">
        <h2 className="font-head text-lg leading-tight font-bold">
          {setting.spoken
            ? setting.spoken[0]?.toUpperCase() + setting.spoken.slice(1)
            : `Set ${setting.force_gf} gf, ${setting.passes === 1 ? 'one pass' : `${setting.passes} passes`}`}
        </h2>
        <p className="figure font-bold">
          {setting.spoken && `${setting.force_gf} gf × ${setting.passes}, `}
          {setting.blade}° blade, {showSpeed(setting.speed_mm_s, unit)}
        </p>
        <p className="text-sm">
          Good in <b className="figure">{setting.usable_words} of 100</b> if you look before unloading,{' '}
          {setting.at_first_words} at the first go
          {setting.spoken || setting.seen
            ? '.'
            : `: a starter figure${force.like ? `, like ${force.like}` : ''}; the product’s own label comes before it.`}
        </p>
        {force.advice.length > 0 && (
          <div className="panel p-2.5 text-sm">
            <b>Torn? In this order:</b>
            <ol className="list-decimal pl-5">
              {force.advice.map((one) => (
                <li key={one}>{one}</li>
              ))}
            </ol>
          </div>
        )}
        {setting.instead && (
          <p className="flex flex-col items-start gap-1.5 text-sm">
            Set as in the run that is made again; {setting.instead} would be proposed now.
            <Button onClick={() => change({ label: 'settings as proposed', changes: { set_then: [] } })}>
              Use what is proposed
            </Button>
          </p>
        )}
        {view.job.handed_off_at === null ? (
          <Button className="self-start" onClick={() => setRunning(true)}>
            Log a run
          </Button>
        ) : (
          <p className="text-sm text-soft">
            The question at the top of the job asks how each sheet came out; your answers count here.
          </p>
        )}
        <LogRun view={view} plan={plan} open={running} close={() => setRunning(false)} />
      </section>
      <Passes force={force} setting={setting} change={change} chosen={view.job.document.passes ?? null} />
      {force.ladder && <LadderFiles jobId={jobId} plan={plan} ladder={force.ladder} sheet={sheet} />}
      <Fold title="How deep" summary={`${setting.blade}° blade`}>
        <DepthPicture setting={setting} stock={plan.stock} />
        <ul className="flex list-disc flex-col gap-1 pl-5 text-sm">
          {setting.why.map((reason) => (
            <li key={reason}>{reason}</li>
          ))}
        </ul>
      </Fold>
      <Readings jobId={jobId} force={force} />
    </>
  );
}

interface PassesProps {
  force: Force;
  setting: Schemas['SettingOut'];
  change: Changer;
  chosen: number | null;
}

/** Passes as a choice: the force and the chance of each. */
function Passes({ force, setting, change, chosen }: PassesProps) {
  return (
    <fieldset className="flex flex-col gap-1">
      <legend className="font-bold">Passes</legend>
      <div className="grid grid-cols-3 gap-1.5">
        {force.each_passes.map((one) => (
          <button
            key={one.passes}
            type="button"
            aria-pressed={one.passes === setting.passes}
            className={`rounded-[6px] border bg-paper px-1.5 py-1 text-left text-sm leading-tight ${
              one.passes === setting.passes
                ? 'border-kingfisher shadow-[inset_0_0_0_1px_var(--kingfisher)]'
                : 'border-rule hover:border-kingfisher'
            }`}
            onClick={() =>
              change({
                label: one.passes === 1 ? 'one pass' : `${one.passes} passes`,
                changes: { passes: one.proposed ? null : one.passes },
              })
            }
          >
            <b className="figure block">
              {one.passes} × {one.force_gf} gf
            </b>
            <span className="block">{one.usable_words} of 100</span>
            <span className="block text-soft">
              {!one.comfortable ? 'over 90 %' : one.proposed ? 'proposed' : ' '}
            </span>
          </button>
        ))}
      </div>
      {chosen !== null && (
        <p className="text-sm text-soft">You chose the passes; the proposed ones are marked.</p>
      )}
    </fieldset>
  );
}
