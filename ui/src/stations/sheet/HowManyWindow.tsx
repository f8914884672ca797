import { useState } from 'react';

import { type Plan, pictureUrl, type View } from '../../api/client';
import type { Changer } from '../../api/hooks';
import { type CountOf, type PlainShape, useHowMany } from '../../api/sheets';
import { Button } from '../../kit/Button';
import { LengthField } from '../../kit/LengthField';
import { plainLength, useUnit } from '../../kit/units';
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
  return (
    <Window title="How many fit on a sheet?" open={open} close={close}>
      <Asked view={view} plan={plan} change={change} close={close} />
    </Window>
  );
}

function Asked({ view, plan, change, close }: Omit<Props, 'open'>) {
  const unit = useUnit((state) => state.unit);
  const first = plan.items[0];
  const [of, setOf] = useState<CountOf>(first ? { number: first.number } : { shape: 'circle', border_mm: 3 });
  const longest = (number: number) => {
    const size = plan.items.find((item) => item.number === number)?.size;
    return size ? Math.round(Math.max(size.width_mm, size.height_mm) * 10) / 10 : 50;
  };
  const [size, setSize] = useState(first ? longest(first.number) : 50);
  const counted = useHowMany(view.job.id, of, size, view.job.changed_at);
  const rows = counted.data?.rows ?? [];
  const most = Math.max(1, ...rows.map((row) => row.pieces));
  const name = 'number' in of ? plan.items.find((item) => item.number === of.number)?.name : null;
  return (
    <div className="flex flex-col gap-4">
      <div>
        <h3 className="mb-1.5 text-sm text-soft">Of what</h3>
        <div className="flex flex-wrap gap-1.5" role="group" aria-label="Of what">
          {plan.items.map((item) => (
            <button
              key={item.number}
              type="button"
              aria-pressed={'number' in of && of.number === item.number}
              title={item.name}
              className="h-14 w-14 rounded-[6px] border border-rule bg-paper p-1 aria-pressed:border-kingfisher aria-pressed:shadow-[inset_0_0_0_1px_var(--kingfisher)]"
              onClick={() => {
                setOf({ number: item.number });
                setSize(longest(item.number));
              }}
            >
              <img src={pictureUrl(item, 160)} alt={item.name} className="h-full w-full object-contain" />
            </button>
          ))}
          {SHAPES.map(([shape, words]) => (
            <Button
              key={shape}
              aria-pressed={'shape' in of && of.shape === shape}
              look={'shape' in of && of.shape === shape ? 'act' : 'plain'}
              onClick={() => setOf({ shape, border_mm: 'shape' in of ? of.border_mm : 3 })}
            >
              {words}
            </Button>
          ))}
        </div>
      </div>
      <div className="flex items-end gap-6">
        <LengthField label="Longest side, without border" value={size} onChange={setSize} />
        {'shape' in of && (
          <LengthField
            label="Border"
            value={of.border_mm}
            onChange={(border_mm) => setOf({ shape: of.shape, border_mm })}
          />
        )}
        <p className="pb-1" role="status" aria-busy={counted.isFetching}>
          {counted.error ? (
            <span className="text-rowan">{asSentence(counted.error.message)}</span>
          ) : counted.isFetching ? (
            <span className="text-soft">Counting at a range of sizes …</span>
          ) : (
            <strong>
              {plainLength(counted.data?.size_mm ?? size, unit)} {unit}: {counted.data?.pieces} a sheet
            </strong>
          )}
        </p>
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
                  {'number' in of && (
                    <Button
                      look="bare"
                      aria-label={`Take this size: ${row.size_mm} mm`}
                      onClick={() => {
                        change({
                          label: `size of ${name}`,
                          numbers: [of.number],
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
