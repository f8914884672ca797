import type { ReactNode } from 'react';

import { pictureUrl, type Schemas } from '../../api/client';
import type { View } from '../../api/view';
import type { Composition } from '../../api/compose';
import { useCatalog } from '../../api/jobs';
import { Button } from '../../kit/Button';
import { LengthField } from '../../kit/LengthField';

interface Props {
  composition: Composition;
  set: (part: Partial<Composition>) => void;
}

const SHAPES: [Schemas['BaseShape'], string][] = [
  ['rounded', 'rounded'],
  ['rectangle', 'rectangle'],
  ['ellipse', 'ellipse'],
  ['circle', 'circle'],
];
const FIELDS = 'grid grid-cols-[repeat(auto-fit,minmax(6.5rem,1fr))] gap-x-3 gap-y-2';

const heightOf = (base: Composition['base']) =>
  base.shape === 'circle' ? base.width_mm : (base.height_mm ?? base.width_mm);

const swap = <T,>(all: T[], index: number, part: Partial<T>) =>
  all.map((one, n) => (n === index ? { ...one, ...part } : one));

function Part({ title, action, children }: { title: string; action?: ReactNode; children: ReactNode }) {
  return (
    <section
      aria-label={title}
      className="flex flex-col gap-2 border-t border-rule pt-3 first:border-0 first:pt-0"
    >
      <div className="flex items-center justify-between">
        <h3 className="font-bold">{title}</h3>
        {action}
      </div>
      {children}
    </section>
  );
}

function Colour({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
}) {
  return (
    <label className="flex flex-col text-sm">
      {label}
      <input type="color" value={value} onChange={(event) => onChange(event.target.value)} />
    </label>
  );
}

export function ComposeBase({ composition, set }: Props) {
  const { base } = composition;
  const change = (part: Partial<Composition['base']>) => set({ base: { ...base, ...part } });
  return (
    <Part title="Shape">
      <div className="flex flex-wrap gap-1.5" role="group" aria-label="Base shape">
        {SHAPES.map(([shape, name]) => (
          <Button
            key={shape}
            aria-pressed={base.shape === shape}
            look={base.shape === shape ? 'act' : 'plain'}
            onClick={() => change({ shape })}
          >
            {name}
          </Button>
        ))}
      </div>
      <div className={FIELDS}>
        <LengthField
          label="Width"
          value={base.width_mm}
          onChange={(mm) => mm > 0 && change({ width_mm: mm })}
        />
        {base.shape !== 'circle' && (
          <LengthField
            label="Height"
            value={heightOf(base)}
            onChange={(mm) => mm > 0 && change({ height_mm: mm })}
          />
        )}
        {base.shape === 'rounded' && (
          <LengthField label="Corners" value={base.corner_mm} onChange={(mm) => change({ corner_mm: mm })} />
        )}
        <Colour label="Colour" value={base.colour} onChange={(colour) => change({ colour })} />
      </div>
    </Part>
  );
}

export function ComposeLines({ composition, set }: Props) {
  const catalog = useCatalog().data;
  const { lines, base } = composition;
  const change = (index: number, part: Partial<Composition['lines'][number]>) =>
    set({ lines: swap(lines, index, part) });
  if (!catalog) return null;
  const { fonts, start } = catalog;
  const add = () =>
    set({
      lines: [
        ...lines,
        { ...start.line, x_mm: base.width_mm * start.line.x_mm, y_mm: heightOf(base) * start.line.y_mm },
      ],
    });
  return (
    <Part title="Text" action={<Button onClick={add}>Add a line</Button>}>
      <p className="text-sm text-soft">
        “{'{name}'}” stands for the name. A line too long for the shape is set smaller.
      </p>
      {lines.map((line, index) => (
        <fieldset key={index} className="flex flex-col gap-1.5 rounded-[6px] border border-rule p-2">
          <legend className="sr-only">Line {index + 1}</legend>
          <div className="flex gap-2">
            <input
              aria-label={`Text of line ${index + 1}`}
              className="field min-w-0 flex-1"
              value={line.text}
              maxLength={200}
              onChange={(event) => change(index, { text: event.target.value })}
            />
            <Button look="bare" onClick={() => set({ lines: lines.filter((_, n) => n !== index) })}>
              Remove
            </Button>
          </div>
          <div className="flex flex-wrap items-end gap-2">
            <label className="flex flex-col text-sm">
              Font
              <select
                className="field"
                value={line.family}
                onChange={(event) => change(index, { family: event.target.value })}
              >
                {fonts.map((font) => (
                  <option key={font.family} value={font.family}>
                    {font.words}
                  </option>
                ))}
              </select>
            </label>
            <LengthField
              label="Size"
              value={line.size_mm}
              onChange={(mm) => mm > 0 && change(index, { size_mm: mm })}
            />
            <Colour label="Colour" value={line.colour} onChange={(colour) => change(index, { colour })} />
            <LengthField label="Across" value={line.x_mm} onChange={(mm) => change(index, { x_mm: mm })} />
            <LengthField label="Down" value={line.y_mm} onChange={(mm) => change(index, { y_mm: mm })} />
            <label className="flex items-center gap-1.5 pb-1 text-sm">
              <input
                type="checkbox"
                className="accent-kingfisher"
                checked={line.bold}
                onChange={(event) => change(index, { bold: event.target.checked })}
              />
              bold
            </label>
          </div>
        </fieldset>
      ))}
    </Part>
  );
}

export function ComposeArts({ view, composition, set }: Props & { view: View }) {
  const items = (view.plan?.items ?? []).filter((item) => !item.composed);
  const { arts, base } = composition;
  const change = (index: number, part: Partial<Composition['arts'][number]>) =>
    set({ arts: swap(arts, index, part) });
  const add = (number: number) => {
    const design = view.job.document.items?.find((one) => one.number === number);
    if (!design) return;
    const { page, lift_de, crop } = design.prepare;
    set({
      arts: [
        ...arts,
        {
          art: design.art,
          page,
          lift_de: lift_de ?? null,
          crop: crop ?? null,
          width_mm: base.width_mm / 4,
          x_mm: base.width_mm / 5,
          y_mm: heightOf(base) / 2,
          centring: 'box',
        },
      ],
    });
  };
  return (
    <Part title="Pictures">
      {items.length === 0 && (
        <p className="text-sm text-soft">Pictures of the job can go on it; this job has none yet.</p>
      )}
      <div className="flex flex-wrap gap-1.5">
        {items.map((item) => (
          <button
            key={item.number}
            type="button"
            aria-label={`Put ${item.name} on it`}
            title={`Put ${item.name} on it`}
            className="h-11 w-11 rounded-[6px] border border-rule p-1 hover:border-kingfisher"
            onClick={() => add(item.number)}
          >
            <img src={pictureUrl(item, 160)} alt="" className="h-full w-full object-contain" />
          </button>
        ))}
      </div>
      {arts.map((placed, index) => (
        <div key={index} className="flex flex-wrap items-end gap-2 rounded-[6px] border border-rule p-2">
          <LengthField
            label="Width"
            value={placed.width_mm}
            onChange={(mm) => mm > 0 && change(index, { width_mm: mm })}
          />
          <LengthField label="Across" value={placed.x_mm} onChange={(mm) => change(index, { x_mm: mm })} />
          <LengthField label="Down" value={placed.y_mm} onChange={(mm) => change(index, { y_mm: mm })} />
          <div className="flex gap-1" role="group" aria-label="Centred by">
            {(['box', 'eye'] as const).map((centring) => (
              <Button
                key={centring}
                aria-pressed={placed.centring === centring}
                look={placed.centring === centring ? 'act' : 'plain'}
                onClick={() => change(index, { centring })}
              >
                by {centring}
              </Button>
            ))}
          </div>
          <Button look="bare" onClick={() => set({ arts: arts.filter((_, n) => n !== index) })}>
            Remove
          </Button>
        </div>
      ))}
    </Part>
  );
}

export function ComposeFree({ composition, set }: Props) {
  const { free, base } = composition;
  const change = (index: number, part: Partial<Composition['free'][number]>) =>
    set({ free: swap(free, index, part) });
  const start = useCatalog().data?.start;
  if (!start) return null;
  const add = () =>
    set({
      free: [
        ...free,
        {
          ...start.free_box,
          x_mm: base.width_mm * start.free_box.x_mm,
          y_mm: heightOf(base) * start.free_box.y_mm,
          width_mm: base.width_mm * start.free_box.width_mm,
          height_mm: heightOf(base) * start.free_box.height_mm,
        },
      ],
    });
  return (
    <Part title="Room for handwriting" action={<Button onClick={add}>Add a box</Button>}>
      {free.map((box, index) => (
        <div key={index} className="flex flex-wrap items-end gap-2 rounded-[6px] border border-rule p-2">
          {(
            [
              ['x_mm', 'From the left'],
              ['y_mm', 'From the top'],
              ['width_mm', 'Width'],
              ['height_mm', 'Height'],
            ] as const
          ).map(([field, label]) => (
            <LengthField
              key={field}
              label={label}
              value={box[field]}
              onChange={(mm) => change(index, { [field]: mm })}
            />
          ))}
          <Colour label="Colour" value={box.colour} onChange={(colour) => change(index, { colour })} />
          <Button look="bare" onClick={() => set({ free: free.filter((_, n) => n !== index) })}>
            Remove
          </Button>
        </div>
      ))}
    </Part>
  );
}
