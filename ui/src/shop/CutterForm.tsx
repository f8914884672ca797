import { useState } from 'react';

import type { Schemas } from '../api/client';
import { useCatalog } from '../api/jobs';
import { useCutters, useKeepCutter } from '../api/shop';
import { LengthField } from '../kit/LengthField';
import { NumberField } from '../kit/NumberField';
import { Options } from '../kit/Options';
import { RouteChoice } from '../look/RouteChoice';
import { MachineForm, type MachineProps } from './MachineForm';

type Cutter = Schemas['CutterProfile'];

/** The profile of a cutter: how it moves, where its blade reaches, how hard it presses. */
export function CutterForm({ view, change, asNew, close }: MachineProps) {
  const cutters = useCutters().data;
  const feeds = useCatalog().data?.feeds ?? [];
  const keep = useKeepCutter();
  const id = view.job.document.cutter_id;
  const now = cutters?.find((one) => one.id === id)?.profile;
  const [draft, setDraft] = useState<Cutter | null>(null);
  if (!now) return null;
  const profile = draft ?? (asNew ? { ...now, name: '', cutter: { ...now.cutter, practice: null } } : now);
  const cutter = profile.cutter;
  const force = cutter.force_gf;
  const set = (changes: Partial<Cutter['cutter']>) =>
    setDraft({ ...profile, cutter: { ...cutter, ...changes } });
  const mat = cutter.mat_mm ?? { width: cutter.reach_mm.width, height: cutter.reach_mm.height };
  return (
    <MachineForm
      kind="cutter"
      id={asNew ? null : id}
      name={profile.name}
      rename={(name) => setDraft({ ...profile, name })}
      error={keep.error?.message}
      keep={(kept) => keep.mutate({ id: asNew ? null : id, profile }, { onSuccess: kept })}
      change={change}
      close={close}
    >
      <fieldset className="flex flex-col gap-1">
        <legend className="mb-1 font-bold">What runs the cutter?</legend>
        <RouteChoice
          value={cutter.feed === 'hand' ? 'hand' : cutter.route}
          onChange={(route) =>
            set(
              route === 'hand'
                ? { route, feed: 'hand' }
                : { route, feed: cutter.feed === 'hand' ? 'mat' : cutter.feed },
            )
          }
        />
      </fieldset>
      <Options
        label="How it moves the stock"
        options={feeds}
        value={cutter.feed}
        onChange={(feed) => set({ feed: feed as Cutter['cutter']['feed'] })}
      />
      {cutter.feed !== 'hand' && (
        <div className="grid grid-cols-2 gap-3">
          <LengthField
            label="The blade reaches across"
            value={cutter.reach_mm.width}
            onChange={(width) => set({ reach_mm: { ...cutter.reach_mm, width } })}
          />
          <LengthField
            label="and along"
            value={cutter.reach_mm.height}
            onChange={(height) => set({ reach_mm: { ...cutter.reach_mm, height } })}
          />
          {cutter.feed === 'roller' && (
            <>
              <LengthField
                label="Under the rollers at the head"
                value={cutter.head_mm}
                onChange={(head_mm) => set({ head_mm })}
              />
              <LengthField
                label="and at the tail"
                value={cutter.tail_mm}
                onChange={(tail_mm) => set({ tail_mm })}
              />
              <LengthField
                label="Off along the feed (σ)"
                hint="how much more than across"
                value={cutter.feed_mm}
                onChange={(feed_mm) => set({ feed_mm })}
              />
            </>
          )}
          {cutter.feed === 'mat' && (
            <>
              <LengthField
                label="The mat's window across"
                value={mat.width}
                onChange={(width) => set({ mat_mm: { ...mat, width } })}
              />
              <LengthField
                label="and along"
                value={mat.height}
                onChange={(height) => set({ mat_mm: { ...mat, height } })}
              />
            </>
          )}
        </div>
      )}
      {cutter.feed !== 'hand' && cutter.route === 'files' && (
        <fieldset className="flex flex-wrap gap-3">
          <legend className="mb-1 font-bold">Force of the blade</legend>
          <NumberField
            label="Least"
            value={force.min}
            unit="gf"
            onChange={(min) => set({ force_gf: { ...force, min } })}
          />
          <NumberField
            label="Greatest"
            value={force.max}
            unit="gf"
            onChange={(max) => set({ force_gf: { ...force, max } })}
          />
          <NumberField
            label="Step"
            value={force.step}
            unit="gf"
            onChange={(step) => set({ force_gf: { ...force, step } })}
          />
        </fieldset>
      )}
    </MachineForm>
  );
}
