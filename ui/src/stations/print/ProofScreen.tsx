import { useState } from 'react';

import { pictureUrl } from '../../api/client';
import { type Printing, useMeasureProof } from '../../api/printing';
import { practiceBarUrl } from '../../api/twin';
import type { Plan } from '../../api/view';
import { Button } from '../../kit/Button';
import { asSentence } from '../../kit/words';
import { useProofDraft } from './proofDraft';

interface Props {
  jobId: number;
  plan: Plan;
  sheet: number;
  printing: Printing;
}

/** The proof: print it on plain paper, type what its bars measure, tick what is there. */
export function ProofScreen({ jobId, plan, sheet, printing }: Props) {
  return (
    <div className="flex h-full flex-col gap-4 overflow-y-auto p-4">
      <section aria-label="Proof" className="flex flex-col gap-2">
        <h2 className="font-head text-lg leading-tight font-bold">A proof on plain paper first</h2>
        <p>
          <a
            className="font-bold text-kingfisher underline"
            href={`/api/jobs/${jobId}/sheets/${sheet + 1}/proof.pdf`}
            download
          >
            Proof of sheet {sheet + 1} (PDF)
          </a>
          : the same page with its cut lines and two bars, each 100 mm long in the file.
        </p>
        {plan.practice && <BarsSeen jobId={jobId} />}
        <Bars jobId={jobId} printing={printing} />
      </section>
      <Checklist jobId={jobId} plan={plan} sheet={sheet} />
    </div>
  );
}

/** The ends of both bars as the practice printer printed them, a ruler along each. */
function BarsSeen({ jobId }: { jobId: number }) {
  return (
    <figure className="panel p-3">
      <figcaption className="mb-2 text-sm">
        <b>From the practice bench</b> (simulated): the ruler’s zero lies at the beginning of each bar. How
        long is each?
      </figcaption>
      <div className="grid grid-cols-2 gap-3">
        {(['across', 'down'] as const).map((side) => (
          <div key={side}>
            <div className="mb-1 text-sm">{side === 'across' ? 'The bar across' : 'The bar along'}</div>
            <img
              src={practiceBarUrl(jobId, side)}
              alt={`The end of the bar ${side === 'across' ? 'across' : 'along'} beside a ruler`}
              className="w-full rounded-[4px] border border-rule"
            />
          </div>
        ))}
      </div>
    </figure>
  );
}

const UNITS = ['mm', 'cm', 'in'] as const;

function Bars({ jobId, printing }: { jobId: number; printing: Printing }) {
  const measure = useMeasureProof(jobId);
  const [unit, setUnit] = useState<(typeof UNITS)[number]>('mm');
  const [typed, setTyped] = useState({ across: '', down: '' });
  const read = (text: string) => Number(text.replace(',', '.'));
  const ready = read(typed.across) > 0 && read(typed.down) > 0;
  const send = (sure: boolean) =>
    measure.mutate({ across: read(typed.across), down: read(typed.down), unit, sure });
  const off = (scale: number) => `${((scale - 1) * 100).toFixed(2)} %`;
  return (
    <form
      className="panel flex flex-col gap-2 p-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (ready) send(false);
      }}
    >
      <div className="flex flex-wrap items-end gap-3">
        {(
          [
            ['across', 'The bar across measures'],
            ['down', 'The bar along measures'],
          ] as const
        ).map(([name, label]) => (
          <label key={name} className="flex flex-col gap-0.5 text-sm">
            {label}
            <input
              className="field figure w-28"
              inputMode="decimal"
              value={typed[name]}
              onChange={(event) => setTyped({ ...typed, [name]: event.target.value })}
            />
          </label>
        ))}
        <div role="group" aria-label="Unit of the bars" className="flex gap-1">
          {UNITS.map((one) => (
            <Button
              key={one}
              look={unit === one ? 'act' : 'plain'}
              className="px-2"
              aria-pressed={unit === one}
              onClick={() => setUnit(one)}
            >
              {one}
            </Button>
          ))}
        </div>
        <Button type="submit" look="main" disabled={!ready || measure.isPending}>
          Keep the printer’s scale
        </Button>
      </div>
      {measure.error && (
        <p className="text-rowan" role="alert">
          {asSentence(measure.error.message)}{' '}
          {/\bsure\b/.test(measure.error.message) && (
            <Button className="ml-1" onClick={() => send(true)}>
              I am sure
            </Button>
          )}
        </p>
      )}
      <p className="text-sm text-soft" role="status">
        {printing.scale_x === 1 && printing.scale_y === 1
          ? 'This printer’s scale was not measured yet, or is right.'
          : `The last proof was off by ${off(printing.scale_x)} across and ${off(printing.scale_y)} down; pages are drawn by so much the other way, marks too.`}
      </p>
    </form>
  );
}

function Checklist({ jobId, plan, sheet }: Omit<Props, 'printing'>) {
  const key = `${jobId} ${plan.packing.layout} ${sheet}`;
  const seen = useProofDraft((state) => state.bySheet[key]) ?? {};
  const mark = useProofDraft((state) => state.mark);
  const placements = plan.sheets[sheet]?.placements ?? [];
  const counts = { there: 0, missing: 0 };
  for (const one of Object.values(seen)) counts[one] += 1;
  return (
    <section aria-label="What should be there" className="flex flex-col gap-2">
      <h2 className="font-head text-lg leading-tight font-bold">What should be there</h2>
      <p role="status" className="text-sm">
        {counts.there} of {placements.length} ticked
        {counts.missing > 0 && (
          <b className="text-rowan">
            , {counts.missing} missing: print the sheet again, and look at the printer’s memory and “print as
            picture” in its dialog
          </b>
        )}
        . Hold a piece against its thing, and look whether the colours are fair.
      </p>
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(8.5rem,1fr))] gap-2">
        {placements.map((placement, index) => {
          const item = plan.items.find((one) => one.number === placement.item_number);
          const state = seen[index];
          return (
            item && (
              <li
                key={index}
                className={`flex flex-col gap-1 rounded-[6px] border bg-paper p-2 ${state === 'missing' ? 'border-rowan' : state ? 'border-moss' : 'border-rule'}`}
              >
                <img
                  src={pictureUrl(item, 160)}
                  alt=""
                  loading="lazy"
                  className={`h-16 w-full object-contain ${state === 'missing' ? 'opacity-35' : ''}`}
                />
                <span className="truncate text-sm">
                  {index + 1}. {item.name}
                </span>
                <span className="flex gap-1">
                  {(
                    [
                      ['there', 'there'],
                      ['missing', 'missing'],
                    ] as const
                  ).map(([value, words]) => (
                    <Button
                      key={value}
                      look={state === value ? 'act' : 'plain'}
                      className="flex-1 px-1"
                      aria-pressed={state === value}
                      aria-label={`${words}: piece ${index + 1}, ${item.name}`}
                      onClick={() => mark(key, index, state === value ? null : value)}
                    >
                      {words}
                    </Button>
                  ))}
                </span>
              </li>
            )
          );
        })}
      </ul>
    </section>
  );
}
