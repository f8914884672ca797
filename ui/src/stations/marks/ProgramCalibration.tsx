/** The program's own calibration: what was read off its sheet, when, with which version, and when to do it again. */
import { useState } from 'react';

import type { Schemas } from '../../api/client';
import { useCatalog } from '../../api/jobs';
import { useMachineChanged } from '../../api/marks';
import { type ProgramView, useProgram, useTellCalibrated } from '../../api/program';
import type { Plan, View } from '../../api/view';
import { Button } from '../../kit/Button';
import { Choose } from '../../kit/Choose';
import { NumberField } from '../../kit/NumberField';
import { asSentence } from '../../kit/words';

const DAY = new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'short', year: 'numeric' });
const today = () => new Date().toISOString().slice(0, 10);

export function ProgramCalibration({ view, plan }: { view: View; plan: Plan }) {
  const program = useProgram(view.job.id, plan.packing.layout).data;
  return program ? <Made view={view} program={program} /> : null;
}

function Made({ view, program }: { view: View; program: ProgramView }) {
  const cutter = view.job.document.cutter_id;
  const tell = useTellCalibrated(cutter);
  const changed = useMachineChanged(view.job.id);
  const changes = useCatalog().data?.machine_changes ?? [];
  const [made, setMade] = useState<Schemas['ProgramCalibration']>({
    on: today(),
    version: '',
    across: null,
    along: null,
  });
  const before = [...(program.facts.calibrated ?? [])].reverse();
  return (
    <div
      className="absolute inset-0 overflow-y-auto p-5"
      tabIndex={0}
      aria-label="Calibration in the program"
    >
      <div className="mx-auto flex max-w-[44rem] flex-col gap-4">
        <h2 className="font-head text-xl font-bold">Calibrated in your machine’s program</h2>
        {program.calibration_due && <p className="font-bold text-bracken">{program.calibration_due}</p>}
        <p>
          Print and cut the program’s own calibration sheet, read its two scales there, and note here what you
          read. Do it again after an update, a new blade holder, another paper size, or when cuts drift to one
          side.
        </p>
        <form
          className="panel flex flex-wrap items-end gap-3 p-3"
          onSubmit={(event) => {
            event.preventDefault();
            tell.mutate(made);
          }}
        >
          <label className="flex flex-col gap-0.5 text-sm">
            Day
            <input
              type="date"
              className="field"
              required
              max={today()}
              value={made.on}
              onChange={(event) => setMade({ ...made, on: event.target.value })}
            />
          </label>
          <NumberField
            label="Read across"
            unit=""
            value={made.across ?? 0}
            onChange={(across) => setMade({ ...made, across })}
          />
          <NumberField
            label="Read along"
            unit=""
            value={made.along ?? 0}
            onChange={(along) => setMade({ ...made, along })}
          />
          <label className="flex flex-col gap-0.5 text-sm">
            Version of the program
            <input
              className="field w-36"
              maxLength={60}
              value={made.version ?? ''}
              onChange={(event) => setMade({ ...made, version: event.target.value })}
            />
          </label>
          <Button type="submit" look="act" disabled={tell.isPending}>
            Note it
          </Button>
        </form>
        {tell.error && <p className="text-rowan">{asSentence(tell.error.message)}</p>}
        <Choose
          name="Something was changed"
          choices={changes.map((one) => ({
            words: one.name,
            do: () => changed.mutate(one.key as Schemas['MachineChange']),
          }))}
        />
        {before.length > 0 && (
          <table className="w-full text-left text-sm">
            <thead className="text-soft">
              <tr>
                {['Day', 'Across', 'Along', 'Version'].map((head) => (
                  <th key={head} className="py-1 font-normal">
                    {head}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {before.map((one, index) => (
                <tr key={index} className="border-t border-rule">
                  <td className="py-1">{DAY.format(new Date(one.on))}</td>
                  <td className="figure">{one.across ?? '–'}</td>
                  <td className="figure">{one.along ?? '–'}</td>
                  <td>{one.version || '–'}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </div>
    </div>
  );
}
