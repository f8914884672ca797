import { useState } from 'react';

import type { Changer } from '../../api/changes';
import { useInk } from '../../api/printing';
import type { Plan, View } from '../../api/view';
import { Fold } from '../../kit/Fold';
import { NumberField } from '../../kit/NumberField';
import { showArea, useUnit } from '../../kit/units';
import { asSentence } from '../../kit/words';

const USUAL_PPI = 300;

/** The pages to take away, as PDF or as pictures, and what is drawn beside the pieces. */
export function PrintFiles({ view, plan, change }: { view: View; plan: Plan; change: Changer }) {
  const [ppi, setPpi] = useState(USUAL_PPI);
  const document = view.job.document;
  return (
    <section aria-label="Print files" className="flex flex-col gap-2">
      <h2 className="font-head text-base font-bold">Print files</h2>
      <ul className="flex flex-col gap-1">
        {plan.sheets.map((_, sheet) => (
          <li key={sheet} className="flex flex-wrap gap-x-4">
            {(
              [
                ['print.pdf', `Sheet ${sheet + 1} (PDF)`],
                [`page.png?ppi=${ppi}`, `as a picture (PNG, ${ppi} ppi)`],
              ] as const
            ).map(([ending, words]) => (
              <a
                key={ending}
                className="font-bold text-kingfisher underline"
                href={`/api/jobs/${view.job.id}/sheets/${sheet + 1}/${ending}`}
                download
              >
                {words}
              </a>
            ))}
          </li>
        ))}
      </ul>
      <Fold title="On the page" summary={document.job_line ? 'with a job line' : 'pieces and marks only'}>
        <NumberField
          label="Pixels an inch of the picture"
          value={ppi}
          unit="ppi"
          onChange={(value) => setPpi(Math.round(Math.max(30, Math.min(1200, value))))}
        />
        <Tick
          on={document.job_line ?? false}
          words="A line with title, sheet, day and a bar of 100 mm in the waste, where there is room"
          set={(job_line) => change({ label: 'job line', changes: { job_line } })}
        />
        <Tick
          on={document.from_inside ?? false}
          words="For the inside of a pane: read through clear stock, so mirrored"
          set={(from_inside) => change({ label: 'for the inside of a pane', changes: { from_inside } })}
        />
      </Fold>
    </section>
  );
}

function Tick({ on, words, set }: { on: boolean; words: string; set: (on: boolean) => void }) {
  return (
    <label className="flex gap-2 text-sm">
      <input
        type="checkbox"
        className="mt-0.5 size-4 shrink-0 accent-kingfisher"
        checked={on}
        onChange={(event) => set(event.target.checked)}
      />
      {words}
    </label>
  );
}

const INKS = [
  ['cyan', 'cyan_cm2', '#00a0c8'],
  ['magenta', 'magenta_cm2', '#c81e78'],
  ['yellow', 'yellow_cm2', '#f0d800'],
  ['black', 'black_cm2', '#22262e'],
] as const;

/** What the sheet takes of each ink. */
export function InkFigures({ jobId, plan, sheet }: { jobId: number; plan: Plan; sheet: number }) {
  const ink = useInk(jobId, sheet, plan.packing.layout);
  const unit = useUnit((state) => state.unit);
  const most = ink.data ? Math.max(0.1, ...INKS.map(([, field]) => ink.data.use[field])) : 1;
  return (
    <Fold title="Ink" summary={ink.data ? `${ink.data.use.ml.toFixed(2)} ml` : 'measuring …'} open>
      {ink.error && <p className="text-rowan">{asSentence(ink.error.message)}</p>}
      {ink.data && (
        <>
          <dl className="grid grid-cols-[auto_1fr_auto] items-center gap-x-2 gap-y-1 text-sm">
            {INKS.map(([name, field, colour]) => (
              <div key={name} className="contents">
                <dt>{name}</dt>
                <dd aria-hidden className="h-2.5 rounded-[2px] bg-tray">
                  <span
                    className="block h-full rounded-[2px]"
                    style={{ width: `${(ink.data.use[field] / most) * 100}%`, background: colour }}
                  />
                </dd>
                <dd className="figure">{showArea(ink.data.use[field], unit)}</dd>
              </div>
            ))}
          </dl>
          <p className="text-sm text-soft">
            Areas of full cover on sheet {sheet + 1}, together {(ink.data.cover * 100).toFixed(0)} % of it.{' '}
            {ink.data.is_heavy && 'So much ink dries slower: give it half as long again.'}
          </p>
        </>
      )}
    </Fold>
  );
}
