/** One test cut on an offcut: which setting to try next, and what it did in one press. */
import { useState } from 'react';

import { type Outcome, type Pressure, type Settings, useForgetRecord, useTellSetting } from '../../api/cut';
import { useCatalog } from '../../api/jobs';
import { Button } from '../../kit/Button';
import { CountField } from '../../kit/CountField';
import { Select } from '../../kit/Select';
import { PressureChoice } from '../../look/PressureChoice';

interface Props {
  jobId: number;
  settings: Settings;
  practice: boolean;
}

export function TestCut({ jobId, settings, practice }: Props) {
  const names = useCatalog().data?.outcomes ?? [];
  const tell = useTellSetting(jobId);
  const enough = settings.done && settings.proposal;
  const begin = enough || settings.next_try || settings.proposal;
  const [said, setSaid] = useState<{ setting: string; pressure: Pressure | null; passes: number }>({
    setting: begin?.setting ?? settings.settings[0]?.name ?? '',
    pressure: begin?.pressure ?? null,
    passes: begin?.passes ?? 1,
  });
  const [other, setOther] = useState(false);
  const chosen = settings.settings.find((one) => one.name === said.setting);
  return (
    <section aria-label="Test cut" className="panel flex flex-col gap-2.5 p-3">
      <h3 className="font-bold">
        {enough
          ? 'Enough is known: cut the sheet'
          : `Test cut on an offcut: ${begin?.words ?? 'any of them'}`}
      </h3>
      <p className="text-sm">
        {enough
          ? 'Another test cut would hardly change it. After the sheet, note here what it did.'
          : 'One small shape; then say what it looks like.'}{' '}
        <a className="font-bold text-kingfisher underline" href={`/api/jobs/${jobId}/test-cut.png`} download>
          The shape as a picture (PNG)
        </a>
        {practice && ' On the practice machine the answer is made up by its hidden force.'}
      </p>
      {other && (
        <div className="flex flex-wrap items-start gap-x-4 gap-y-1.5">
          <Select
            label="Setting"
            options={settings.settings.map(({ name }) => ({ key: name, name }))}
            value={said.setting}
            onChange={(setting) => setSaid({ ...said, setting, pressure: null })}
          />
          <PressureChoice
            pressures={chosen?.pressures ?? []}
            value={said.pressure}
            onChange={(pressure) => setSaid({ ...said, pressure })}
          />
          <span className="flex flex-col gap-0.5 text-sm">
            Passes
            <CountField
              label="Passes of the test cut"
              value={said.passes}
              most={settings.most_passes}
              onChange={(passes) => setSaid({ ...said, passes })}
            />
          </span>
        </div>
      )}
      <div role="group" aria-label="What it did" className="flex flex-wrap items-center gap-1.5">
        <span className="text-sm">{words(said)} was</span>
        {names
          .filter((one) => settings.outcomes.includes(one.key as Outcome))
          .map((one) => (
            <Button
              key={one.key}
              title={one.hint}
              disabled={tell.isPending || !said.setting}
              onClick={() =>
                tell.mutate({
                  ...said,
                  cut: settings.cut,
                  outcome: one.key as Outcome,
                  stock: null,
                })
              }
            >
              {one.name}
            </Button>
          ))}
        {!other && (
          <Button look="bare" onClick={() => setOther(true)}>
            I set something else
          </Button>
        )}
      </div>
      <Told jobId={jobId} settings={settings} />
    </section>
  );
}

const words = ({
  setting,
  pressure,
  passes,
}: {
  setting: string;
  pressure: Pressure | null;
  passes: number;
}) =>
  `“${setting}”${pressure && pressure !== 'usual' ? `, ${pressure} pressure` : ''}${passes > 1 ? `, ${passes} passes` : ''}`;

/** What was told of this stock, the newest first; each can be taken back. */
function Told({ jobId, settings }: { jobId: number; settings: Settings }) {
  const names = useCatalog().data?.outcomes ?? [];
  const forget = useForgetRecord(jobId);
  if (settings.told.length === 0) return null;
  return (
    <ul aria-label="Told of this stock" className="flex flex-col text-sm">
      {settings.told.slice(0, 6).map((one) => (
        <li key={one.id} className="flex flex-wrap items-baseline gap-x-2">
          <span>
            {one.words}: <b>{names.find(({ key }) => key === one.outcome)?.name}</b>
            {one.from_run && ', in a run'}
          </span>
          <Button look="bare" className="px-1 py-0 text-soft" onClick={() => forget.mutate(one.id)}>
            Take it back
          </Button>
        </li>
      ))}
    </ul>
  );
}
