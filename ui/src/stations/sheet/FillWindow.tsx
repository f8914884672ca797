import { useCatalog } from '../../api/jobs';
import { useState } from 'react';

import { artUrl } from '../../api/client';
import type { View } from '../../api/view';
import type { Changer } from '../../api/changes';
import { useFillWith, useSources, useFillPriority } from '../../api/sheets';
import { Button } from '../../kit/Button';
import { LengthField } from '../../kit/LengthField';
import { Window } from '../../kit/Window';

interface Props {
  view: View;
  change: Changer;
  open: boolean;
  close: () => void;
}

/** What the space that is left may take: more copies, most wanted first, or fillers in a range of sizes. */
export function FillWindow({ view, change, open, close }: Props) {
  return (
    <Window title="Fill what is left" open={open} close={close}>
      <Wishes view={view} change={change} />
      <Fillers view={view} open={open} close={close} />
    </Window>
  );
}

function Wishes({ view, change }: Pick<Props, 'view' | 'change'>) {
  const items = view.job.document.items ?? [];
  const packing = view.job.document.packing;
  const wished = items
    .filter((item) => item.fill_priority != null)
    .sort((a, b) => (a.fill_priority ?? 0) - (b.fill_priority ?? 0));
  const priority = useFillPriority(view.job.id);
  return (
    <section>
      <div className="flex items-center justify-between gap-4">
        <h3 className="font-bold">Fill what is left with</h3>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="h-4 w-4 accent-kingfisher"
            checked={packing?.fill ?? false}
            onChange={(event) =>
              change({ label: 'fill what is left', changes: { 'packing.fill': event.target.checked } })
            }
          />
          fill what is left
        </label>
      </div>
      <p className="mb-2 text-sm text-soft">
        When all wanted pieces are placed, the rest of each sheet takes extra copies. Equal numbers share it
        evenly; a lower one goes first, with as many as go in.
      </p>
      <ul className="flex flex-col gap-1">
        {[...wished, ...items.filter((item) => item.fill_priority == null)].map((item) => (
          <li key={item.number} className="flex items-center gap-3">
            <span className="figure w-6 text-right font-bold">{item.fill_priority ?? ''}</span>
            <img src={artUrl(item.art, 160)} alt="" className="h-8 w-8 object-contain" />
            <span className="min-w-0 flex-1 truncate">{item.name}</span>
            {item.fill_priority == null ? (
              <Button
                onClick={() => priority.mutate({ number: item.number, move: 'on' })}
                aria-label={`More of it: ${item.name}`}
              >
                More of it
              </Button>
            ) : (
              <>
                <Button
                  look="bare"
                  disabled={item.fill_priority === 1}
                  aria-label={`Sooner: ${item.name}`}
                  onClick={() => priority.mutate({ number: item.number, move: 'sooner' })}
                >
                  Sooner
                </Button>
                <Button
                  look="bare"
                  aria-label={`Later: ${item.name}`}
                  onClick={() => priority.mutate({ number: item.number, move: 'later' })}
                >
                  Later
                </Button>
                {(item.quantity ?? 0) > 0 && (
                  <Button
                    look="bare"
                    aria-label={`No more: ${item.name}`}
                    onClick={() => priority.mutate({ number: item.number, move: 'off' })}
                  >
                    No more
                  </Button>
                )}
              </>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Fillers({ view, open, close }: Pick<Props, 'view' | 'open' | 'close'>) {
  const jobId = view.job.id;
  const sources = useSources(jobId, open).data ?? [];
  const fill = useFillWith(jobId);
  const [chosen, setChosen] = useState<string | null>(null);
  const start = useCatalog().data?.start.filler_mm ?? [0, 0];
  const [least, setLeast] = useState<number>(start[0] ?? 0);
  const [most, setMost] = useState<number>(start[1] ?? 0);
  const key = (one: (typeof sources)[number]) => `${one.job_id}-${one.number}`;
  const source = sources.find((one) => key(one) === chosen);
  return (
    <section className="mt-5 border-t border-rule pt-4">
      <h3 className="font-bold">Or small ones, in a range of sizes</h3>
      <p className="mb-2 text-sm text-soft">
        From this job or from another on the same stock. The largest size that still fits goes into each gap.
      </p>
      <div
        className="flex max-h-44 flex-wrap gap-1.5 overflow-y-auto"
        role="group"
        aria-label="Design to fill with"
      >
        {sources.map((one) => (
          <button
            key={key(one)}
            type="button"
            aria-pressed={chosen === key(one)}
            title={one.is_own ? one.name : `${one.name}, from ${one.job}`}
            className="h-14 w-14 rounded-[6px] border border-rule bg-paper p-1 aria-pressed:border-kingfisher aria-pressed:shadow-[inset_0_0_0_1px_var(--kingfisher)]"
            onClick={() => setChosen(key(one))}
          >
            <img
              src={artUrl(one.art, 160)}
              alt={one.is_own ? one.name : `${one.name}, from ${one.job}`}
              className="h-full w-full object-contain"
            />
          </button>
        ))}
      </div>
      <div className="mt-3 flex items-end gap-4">
        <LengthField label="Longest side from" value={least} onChange={setLeast} />
        <LengthField label="to" value={most} onChange={setMost} />
        <Button
          look="main"
          disabled={!source || fill.isPending}
          onClick={() =>
            source &&
            fill.mutate(
              {
                job_id: source.job_id,
                number: source.number,
                least_mm: Math.min(least, most),
                most_mm: Math.max(least, most),
              },
              { onSuccess: close },
            )
          }
        >
          Fill with {source ? source.name : 'it'}
        </Button>
      </div>
    </section>
  );
}
