import { useCatalog } from '../../api/jobs';
import { useState } from 'react';

import { pictureUrl } from '../../api/client';
import type { Plan, View } from '../../api/view';
import type { Changer } from '../../api/changes';
import { type CountOf, type PlainShape, useHowMany, useTogether } from '../../api/sheets';
import { Button } from '../../kit/Button';
import { CountField } from '../../kit/CountField';
import { LengthField } from '../../kit/LengthField';
import { plainLength, showLength, useUnit } from '../../kit/units';
import { Window } from '../../kit/Window';
import { asSentence } from '../../kit/words';

interface Props {
  view: View;
  plan: Plan;
  change: Changer;
  open: boolean;
  close: () => void;
}

const SHAPES: [PlainShape, string][] = [
  ['circle', 'a circle'],
  ['square', 'a square'],
  ['tall', 'a tall label, 2 : 3'],
  ['strip', 'a strip, 1 : 4'],
];

/** How many fit on a sheet, before anything is final: sizes against pieces. */
export function HowManyWindow({ view, plan, change, open, close }: Props) {
  const start = useCatalog().data?.start;
  return (
    <Window title="How many fit on a sheet?" open={open} close={close}>
      {start && <Asked view={view} plan={plan} change={change} close={close} start={start} />}
    </Window>
  );
}

function Asked({
  view,
  plan,
  change,
  close,
  start,
}: Omit<Props, 'open'> & { start: NonNullable<ReturnType<typeof useCatalog>['data']>['start'] }) {
  const unit = useUnit((state) => state.unit);
  const first = plan.items[0];
  const [numbers, setNumbers] = useState<number[]>(first ? [first.number] : []);
  const [shape, setShape] = useState<PlainShape | null>(first ? null : 'circle');
  const [border, setBorder] = useState(start.edge.distance_mm);
  const longest = (number: number) => {
    const size = plan.items.find((item) => item.number === number)?.size;
    return size ? Math.round(Math.max(size.width_mm, size.height_mm) * 10) / 10 : start.count_size_mm;
  };
  const [size, setSize] = useState(first ? longest(first.number) : start.count_size_mm);
  const [sheets, setSheets] = useState(1);
  const alone = shape === null && numbers.length === 1 ? numbers[0] : undefined;
  const of: CountOf | null =
    shape !== null ? { shape, border_mm: border } : alone !== undefined ? { number: alone } : null;
  const counted = useHowMany(view.job.id, of, size, view.job.changed_at);
  const together = useTogether(view.job.id, shape === null ? numbers : [], view.job.changed_at);
  const rows = of ? (counted.data?.rows ?? []) : [];
  const most = Math.max(1, ...rows.map((row) => row.pieces));
  const name = plan.items.find((item) => item.number === alone)?.name;
  const several = shape === null && numbers.length > 1;
  const asked = several ? together : counted;
  const each = several ? together.data?.sets : counted.data?.pieces;
  const toggle = (number: number) => {
    const others = numbers.filter((one) => one !== number);
    const next = shape !== null ? [number] : numbers.includes(number) ? others : [...numbers, number];
    setShape(null);
    setNumbers(next.length ? next : [number]);
    if (next.length === 1 && next[0] !== undefined) setSize(longest(next[0]));
  };
  const fillSheets = () => {
    change({
      label: `${sheets} full ${sheets === 1 ? 'sheet' : 'sheets'}`,
      numbers,
      changes: { quantity: sheets * (each ?? 0), ...(several ? {} : { longest_mm: size, size_over: 'ink' }) },
    });
    close();
  };
  return (
    <div className="flex flex-col gap-4">
      <div>
        <h3 className="mb-1.5 text-sm text-soft">
          Of what? Press several designs to count whole sets of them.
        </h3>
        <div className="flex flex-wrap gap-1.5" role="group" aria-label="Of what">
          {plan.items.map((item) => (
            <button
              key={item.number}
              type="button"
              aria-pressed={shape === null && numbers.includes(item.number)}
              title={item.name}
              className="h-14 w-14 rounded-[6px] border border-rule bg-paper p-1 aria-pressed:border-kingfisher aria-pressed:shadow-[inset_0_0_0_1px_var(--kingfisher)]"
              onClick={() => toggle(item.number)}
            >
              <img src={pictureUrl(item, 160)} alt={item.name} className="h-full w-full object-contain" />
            </button>
          ))}
          {SHAPES.map(([key, words]) => (
            <Button
              key={key}
              aria-pressed={shape === key}
              look={shape === key ? 'act' : 'plain'}
              onClick={() => setShape(key)}
            >
              {words}
            </Button>
          ))}
        </div>
      </div>
      <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
        {!several && <LengthField label="Longest side, without border" value={size} onChange={setSize} />}
        {shape !== null && <LengthField label="Border" value={border} onChange={setBorder} />}
        <p className="pb-1" role="status" aria-busy={asked.refining}>
          {asked.error ? (
            <span className="text-rowan">{asSentence(asked.error.message)}</span>
          ) : each === undefined ? (
            <span className="text-soft">Counting …</span>
          ) : (
            <>
              <strong>
                {several
                  ? `${each} whole ${each === 1 ? 'set' : 'sets'} of ${numbers.length}, ${each * numbers.length} pieces a sheet`
                  : `${plainLength(counted.data?.size_mm ?? size, unit)} ${unit}: ${each} a sheet`}
              </strong>
              <span className="text-soft">
                {several && `, at most ${together.data?.at_most} by area`}
                {asked.refining && ', in plain rows; looking for more …'}
              </span>
            </>
          )}
        </p>
        {shape === null && !!each && (
          <span className="flex items-center gap-2">
            <CountField label="Full sheets" value={sheets} onChange={setSheets} />
            <Button onClick={fillSheets} disabled={asked.refining}>
              {sheets === 1 ? 'Make a full sheet' : `Make ${sheets} full sheets`}
            </Button>
          </span>
        )}
      </div>
      {rows.length > 0 && (
        <table className="w-full text-left">
          <caption className="mb-1 text-left text-sm text-soft">
            Each line is the largest size at which so many go on one sheet, in the job’s gap and turn rule.
            Packing, which turns every piece by itself, may find a few more.
          </caption>
          <thead className="text-sm text-soft">
            <tr className="border-b border-rule">
              <th className="py-1 font-normal">longest side</th>
              <th className="font-normal">pieces</th>
              <th className="w-2/5 font-normal">
                <span className="sr-only">as a bar</span>
              </th>
              <th className="font-normal">at most, by area</th>
              <th>
                <span className="sr-only">take it</span>
              </th>
            </tr>
          </thead>
          <tbody className="figure">
            {rows.map((row) => (
              <tr key={row.size_mm} className="border-b border-rule">
                <td className="py-1">
                  {plainLength(row.size_mm, unit)} {unit}
                </td>
                <td className="font-bold">{row.pieces}</td>
                <td aria-hidden className="pr-5">
                  <div
                    className="h-2 rounded bg-kingfisher"
                    style={{ width: `${(row.pieces / most) * 100}%` }}
                  />
                </td>
                <td>{row.at_most}</td>
                <td className="text-right font-sans">
                  {alone !== undefined && (
                    <Button
                      look="bare"
                      aria-label={`Take this size: ${showLength(row.size_mm, unit)}`}
                      onClick={() => {
                        change({
                          label: `size of ${name}`,
                          numbers: [alone],
                          changes: { longest_mm: row.size_mm, size_over: 'ink' },
                        });
                        close();
                      }}
                    >
                      Take this size
                    </Button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}
