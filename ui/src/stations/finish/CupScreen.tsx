import { useState } from 'react';

import type { Changer } from '../../api/changes';
import type { Schemas } from '../../api/client';
import { useCatalog } from '../../api/jobs';
import { useCup, useCupParts, useStrips } from '../../api/finish';
import type { Item, View } from '../../api/view';
import { Button } from '../../kit/Button';
import { LengthField } from '../../kit/LengthField';
import { CupPicture } from './CupPicture';
import { CupSheet } from './CupSheet';

type Wrap = Schemas['WrapSpec'];
interface Props {
  view: View;
  item: Item;
  change: Changer;
}

/** What a design goes round: measured, unrolled, and turned under the hand. */
export function CupScreen({ view, item, change }: Props) {
  const document = view.job.document.items?.find((one) => one.number === item.number);
  const wrap = document?.wrap ?? null;
  const cup = useCup(view.job.id, item.number, JSON.stringify(document)).data ?? null;
  const strips = useStrips(view.job.id, item.number);
  const parts = useCupParts(view.job.id);
  const [seam, setSeam] = useState(0);
  const cups = useCatalog().data?.cups ?? [];
  const [dimension, setDimension] = useState<'around' | 'up' | null>(null);
  const put = (next: Wrap | null) =>
    change({ label: 'cup', numbers: [item.number], changes: { wrap: next } });
  if (!wrap)
    return (
      <div className="flex max-w-xl flex-col gap-3 p-5">
        <h2 className="font-head text-xl font-bold">Does {item.name} go round something?</h2>
        <p>
          Measure it: the diameters at both rims, and the height along the wall. On a cup that tapers the art
          is bent, edge and all, so that it stands straight there.
        </p>
        <div className="flex flex-wrap gap-2">
          {cups.map(({ name, wrap: begin }) => (
            <Button key={name} look="act" onClick={() => put(begin)}>
              {name}
            </Button>
          ))}
        </div>
      </div>
    );
  const over = (key: keyof Wrap) => (mm: number) => put({ ...wrap, [key]: mm });
  return (
    <div className="flex flex-col gap-4 p-5">
      <header className="flex flex-wrap items-baseline justify-between gap-3">
        <h2 className="font-head text-xl font-bold">{item.name} on its cup</h2>
        <Button look="bare" onClick={() => put(null)}>
          It does not go round a cup
        </Button>
      </header>
      <div className="flex flex-wrap gap-x-5 gap-y-3">
        <LengthField label="Across the top" value={wrap.top_mm} onChange={over('top_mm')} />
        <LengthField label="Across the bottom" value={wrap.bottom_mm} onChange={over('bottom_mm')} />
        {cup && (
          <>
            <LengthField
              label="or a strip round the top"
              value={cup.top_around_mm}
              onChange={(mm) => strips.mutate({ top_around_mm: mm })}
            />
            <LengthField
              label="or round the bottom"
              value={cup.bottom_around_mm}
              onChange={(mm) => strips.mutate({ bottom_around_mm: mm })}
            />
          </>
        )}
        <LengthField label="Height along the wall" value={wrap.slant_mm} onChange={over('slant_mm')} />
        <span onFocus={() => setDimension('up')} onBlur={() => setDimension(null)}>
          <LengthField
            label="Middle above the bottom"
            value={wrap.up_mm ?? wrap.slant_mm / 2}
            onChange={over('up_mm')}
          />
        </span>
        <span onFocus={() => setDimension('around')} onBlur={() => setDimension(null)}>
          <LengthField label="Overlap" value={wrap.overlap_mm} onChange={over('overlap_mm')} />
        </span>
        <LengthField label="Kept free for a handle" value={wrap.handle_mm} onChange={over('handle_mm')} />
        {cup?.kind === 'taper' && (
          <label className="flex items-center gap-2 self-end pb-1.5 text-sm">
            <input
              type="checkbox"
              checked={wrap.bent}
              onChange={(event) => put({ ...wrap, bent: event.target.checked })}
            />
            Bend it to stand straight
          </label>
        )}
      </div>
      {cup && (
        <>
          <div className="grid grid-cols-2 items-start gap-5 max-[60rem]:grid-cols-1">
            <CupPicture cup={cup} dimension={dimension} />
            <figure className="flex flex-col gap-1.5">
              <CupSheet cup={cup} dimension={dimension} />
              <figcaption className="text-sm text-soft">
                The cup’s wall laid flat, with the piece as it lies on the sheet.
              </figcaption>
            </figure>
          </div>
          <ul className="flex flex-col gap-1">
            {cup.lines.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
          {!document?.tile && (
            <section
              aria-label="In parts"
              className="flex flex-wrap items-end gap-x-4 gap-y-2 border-t border-rule pt-3"
            >
              <p className="max-w-md text-sm">
                A piece that reaches far round is easier to put on in two parts. Each becomes its own design,
                and they overlap.
              </p>
              <Button onClick={() => parts.mutate({ number: item.number, seams_mm: [] })}>
                Split it where the least is drawn
              </Button>
              <LengthField label="Seam right of its middle" value={seam} onChange={setSeam} />
              <Button onClick={() => parts.mutate({ number: item.number, seams_mm: [seam] })}>
                Split it there
              </Button>
            </section>
          )}
        </>
      )}
    </div>
  );
}
