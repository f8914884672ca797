import { useState } from 'react';

import { type Offcut, useDropOffcut, useOffcuts } from '../api/ledger';
import { Button } from '../kit/Button';
import { showLength, useUnit } from '../kit/units';
import { Window } from '../kit/Window';
import { OffcutForm } from './OffcutForm';

const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short' });

/** What is left of sheets, and can be the sheet of a small job. */
export function OffcutPart() {
  const offcuts = useOffcuts().data;
  const [adding, setAdding] = useState(false);
  if (!offcuts) return null;
  return (
    <section aria-label="Offcuts" className="flex flex-col gap-3 border-t border-rule pt-4">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <h2 className="font-head text-lg font-bold">Offcuts</h2>
        <Button look="act" onClick={() => setAdding(true)}>
          Add an offcut
        </Button>
      </div>
      {offcuts.length === 0 ? (
        <p className="text-sm text-soft">
          Keep the rest of a sheet from its run, or add one here: a spoilt or half-used sheet can still take a
          smaller job. Vamper packs into what is blank on it, whatever its shape.
        </p>
      ) : (
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(17rem,1fr))] gap-3">
          {offcuts.map((one) => (
            <One key={one.id} offcut={one} />
          ))}
        </ul>
      )}
      <Window wide title="An offcut" open={adding} close={() => setAdding(false)}>
        <OffcutForm close={() => setAdding(false)} />
      </Window>
    </section>
  );
}

function One({ offcut }: { offcut: Offcut }) {
  const drop = useDropOffcut();
  const unit = useUnit((state) => state.unit);
  const { paper } = offcut;
  return (
    <li className="panel flex gap-3 p-3">
      <svg
        viewBox={`-1 -1 ${paper.width_mm + 2} ${paper.height_mm + 2}`}
        className="drawing h-24 w-20 shrink-0"
        aria-hidden
      >
        <rect
          width={paper.width_mm}
          height={paper.height_mm}
          fill="var(--d-paper)"
          stroke="var(--d-soft)"
          vectorEffect="non-scaling-stroke"
        />
        <path d={offcut.path} fill="var(--d-soft)" fillOpacity="0.55" />
      </svg>
      <div className="flex min-w-0 flex-1 flex-col gap-0.5 text-sm">
        <b className="leading-tight">{offcut.name}</b>
        <span className="text-soft">{offcut.stock_name}</span>
        <span>
          {showLength(paper.width_mm, unit, 0)} × {showLength(paper.height_mm, unit, 0)}; {offcut.room}
        </span>
        <span className="text-soft">kept {day.format(new Date(offcut.kept_at))}</span>
        <Button
          look="bare"
          className="mt-auto self-start"
          disabled={drop.isPending}
          aria-label={`Throw it away: ${offcut.name}`}
          onClick={() => drop.mutate(offcut.id)}
        >
          Throw it away
        </Button>
      </div>
    </li>
  );
}
