/** Beside the settings: what they are weighed by, the sheet's own blade and mat, and a run to log. */
import { useState } from 'react';

import type { Schemas } from '../../api/client';
import type { Plan, View } from '../../api/view';
import { Button } from '../../kit/Button';
import { LogRun } from './LogRun';
import { Explained } from '../../look/Explained';

interface Props {
  view: View;
  plan: Plan;
  setting: Schemas['SettingOut'];
}

export function SettingsPanel({ view, plan, setting }: Props) {
  const [running, setRunning] = useState(false);
  return (
    <section aria-label="For this sheet" className="flex flex-col gap-2">
      <h2 className="font-head text-lg leading-tight font-bold">
        {setting.spoken || (setting.by_name ? 'No setting chosen yet' : `${setting.force_gf} gf`)}
      </h2>
      <p className="text-sm">
        <Explained
          text={
            setting.cut === 'kiss'
              ? 'A kiss cut: through the face only, so the pieces stay on the backing.'
              : 'A through cut: the pieces come loose.'
          }
        />
      </p>
      <ul className="flex list-disc flex-col gap-1 pl-5 text-sm">
        {setting.why.map((reason) => (
          <li key={reason}>{reason}</li>
        ))}
      </ul>
      <p className="text-sm">
        <b>Cut, look, cut again:</b> look before you unload. Not through? Run the same cut again without
        unloading: it lands in the same place.
      </p>
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
  );
}
