/** What lies over the print: one decision, told in one place, with the figures that belong to it. */
import type { Changer } from '../api/changes';
import type { Schemas } from '../api/client';
import { CountField } from '../kit/CountField';
import { NumberField } from '../kit/NumberField';
import { Options } from '../kit/Options';
import { Select } from '../kit/Select';
import { WordsField } from '../kit/WordsField';

export type Cover = Schemas['CoverSpec'];

const WAYS = [
  { key: 'none', name: 'No cover' },
  { key: 'laminate', name: 'A laminate', hint: 'laid before the cut, cut with it' },
  { key: 'before-cut', name: 'A coat before the cut', hint: 'a guard over marks that are read' },
  { key: 'after-cut', name: 'A coat after the cut', hint: 'reaches over the rims' },
];
const FACES = [
  { key: '', name: 'not said' },
  { key: 'gloss', name: 'gloss' },
  { key: 'satin', name: 'satin' },
  { key: 'matte', name: 'matte' },
];
const wayOf = (cover: Cover) =>
  cover.kind === 'coat' ? (cover.when ?? 'before-cut') : (cover.kind ?? 'none');
const coverOf = (way: string): Cover => ({
  kind: way === 'none' || way === 'laminate' ? way : 'coat',
  when: way === 'after-cut' ? 'after-cut' : 'before-cut',
  um: 60,
  coats: null,
  product: '',
});

interface Props {
  cover: Cover;
  /** How many coats it gets as things are; null where it gets none. */
  coats: number | null;
  change: Changer;
}

export function CoverChoice({ cover, coats, change }: Props) {
  const put = (next: Cover) => change({ label: 'cover', changes: { 'finish.cover': next } });
  return (
    <div className="flex flex-col gap-2">
      <Options
        label="Cover"
        columns={2}
        options={WAYS}
        value={wayOf(cover)}
        onChange={(way) => put({ ...coverOf(way), product: cover.product ?? '', look: cover.look ?? null })}
      />
      <CoverFigures cover={cover} coats={coats} change={change} />
    </div>
  );
}

/** Thickness, coats and product of a cover that was chosen. */
export function CoverFigures({ cover, coats, change }: Props) {
  if (cover.kind === 'none') return null;
  const many = coats ?? cover.coats ?? null;
  const put = (next: Partial<Cover>) =>
    change({ label: 'cover', changes: { 'finish.cover': { ...cover, ...next } } });
  return (
    <div className="flex flex-wrap items-end gap-3">
      {cover.kind === 'laminate' ? (
        <NumberField label="How thick" unit="µm" value={cover.um ?? 60} onChange={(um) => put({ um })} />
      ) : (
        many !== null && (
          <div className="flex flex-col gap-0.5 text-sm">
            Coats
            <CountField label="Coats" value={many} most={12} onChange={(count) => put({ coats: count })} />
          </div>
        )
      )}
      <Select
        label="Its face"
        options={FACES}
        value={cover.look ?? ''}
        onChange={(look) => put({ look: look === '' ? null : (look as Schemas['Sheen']) })}
      />
      <WordsField
        label="Product"
        hint="as you call it"
        most={80}
        value={cover.product ?? ''}
        onChange={(product) => put({ product })}
      />
    </div>
  );
}
