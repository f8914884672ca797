import { useState } from 'react';

import type { Schemas } from '../api/client';
import { useCatalog } from '../api/jobs';
import { Button } from '../kit/Button';
import { NumberField } from '../kit/NumberField';
import { Select } from '../kit/Select';
import { asSentence } from '../kit/words';
import { PressFields } from './PressFields';

type Stock = Schemas['Stock'];

interface Props {
  stock: Stock;
  isNew: boolean;
  error: string | undefined;
  save: (stock: Stock) => void;
  back: () => void;
}

const PRESSED: readonly Stock['stock_class'][] = ['transfer', 'flex', 'dye-paper'];

// Each figure of a stock with its words and its unit.
const FIGURES = [
  ['face_um', 'Face', 'µm'],
  ['backing_um', 'Backing (0: none)', 'µm'],
  ['hardness_gf_per_um', 'Hardness', 'gf/µm'],
  ['least_neck_mm', 'Least neck', 'mm'],
  ['abrasion', 'Abrasion', '× label paper'],
  ['speed_mm_s', 'Speed at most', 'mm/s'],
  ['gloss', 'Shine, 0 to 1', ''],
  ['tuft', 'Left on the tip, 0 to 1', ''],
] as const;

/** Everything that is known of one stock. */
export function StockForm({ stock, isNew, error, save, back }: Props) {
  const catalog = useCatalog().data;
  const [draft, setDraft] = useState(stock);
  const set = (changes: Partial<Stock>) => setDraft({ ...draft, ...changes });
  const text = (name: 'name' | 'use' | 'package_setting', label: string) => (
    <label key={name} className="flex flex-col gap-0.5 text-sm">
      {label}
      <input
        className="field"
        maxLength={name === 'package_setting' ? 80 : 100}
        value={draft[name] ?? ''}
        required={name === 'name'}
        onChange={(event) => set({ [name]: event.target.value })}
      />
    </label>
  );
  const tick = (name: 'printable' | 'mirrored' | 'soft_backing' | 'soft_or_fibrous', label: string) => (
    <label key={name} className="flex gap-2 text-sm">
      <input
        type="checkbox"
        className="mt-0.5 size-4 accent-kingfisher"
        checked={draft[name] ?? false}
        onChange={(event) => set({ [name]: event.target.checked })}
      />
      {label}
    </label>
  );
  return (
    <form
      className="flex flex-col gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        save(draft);
      }}
    >
      {isNew && draft.like && (
        <p className="panel p-2.5">
          Nobody has cut it here yet; its figures are taken from <b>{draft.like}</b>. Change what its label
          says otherwise; a few test cuts find the rest.
        </p>
      )}
      {text('name', 'Name')}
      {text('use', 'What it is for')}
      {text('package_setting', 'Setting that its package names for your machine')}
      <div className="grid grid-cols-3 gap-3">
        {FIGURES.map(([name, label, unit]) => (
          <NumberField
            key={name}
            label={label}
            unit={unit}
            value={draft[name] ?? 0}
            onChange={(value) => set({ [name]: value })}
          />
        ))}
      </div>
      <div className="grid grid-cols-4 gap-3">
        <Select
          label="What its face is"
          options={catalog?.grounds ?? []}
          value={draft.ground}
          onChange={(key) => set({ ground: key as Stock['ground'] })}
        />
        <Select
          label="What it is"
          options={catalog?.stock_classes ?? []}
          value={draft.stock_class}
          onChange={(key) => set({ stock_class: key as Stock['stock_class'] })}
        />
        <Select
          label="Mat"
          options={(catalog?.tacks ?? []).map((one) => ({ ...one, name: `${one.name} tack` }))}
          value={draft.tack}
          onChange={(key) => set({ tack: key as Stock['tack'] })}
        />
        <Select
          label="Usually"
          options={catalog?.cuts ?? []}
          value={draft.starts ?? ''}
          onChange={(key) => set({ starts: key as NonNullable<Stock['starts']> })}
        />
      </div>
      <div className="grid grid-cols-2 gap-1.5">
        {tick('printable', 'it is printed')}
        {tick('mirrored', 'it goes on face down, so it is mirrored')}
        {tick('soft_or_fibrous', 'soft or fibrous: tears rather than parts')}
        {tick('soft_backing', 'soft backing: no steep blade')}
      </div>
      {PRESSED.includes(draft.stock_class) && (
        <PressFields film={draft.press ?? null} set={(press) => set({ press })} />
      )}
      {error && (
        <p className="text-rowan" role="alert">
          {asSentence(error)}
        </p>
      )}
      <div className="flex gap-2">
        <Button type="submit" look="main" disabled={!draft.name.trim()}>
          {isNew ? 'Keep it and use it here' : 'Save'}
        </Button>
        <Button onClick={back}>Back to the list</Button>
      </div>
    </form>
  );
}
