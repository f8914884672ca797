import { useState } from 'react';

import {
  type Care,
  useCare,
  useKeepBlade,
  useKeepMat,
  usePutIn,
  useRemoveThing,
  useWashed,
} from '../../api/cut';
import { useCatalog } from '../../api/jobs';
import type { View } from '../../api/view';
import { Button } from '../../kit/Button';
import { Select } from '../../kit/Select';
import { showWay, useUnit } from '../../kit/units';
import { Loaded } from '../../look/Loaded';

type Advice = Care['blades'][number]['advice'];

/** Blades and mats as things on a shelf: how they are now, what to do next and when. */
export function CareLook({ view }: { view: View }) {
  const cutterId = view.job.document.cutter_id;
  return (
    <Loaded query={useCare(view.job.id)} doing="Looking at blades and mats" className="p-4">
      {(care) => <CareThere care={care} cutterId={cutterId} />}
    </Loaded>
  );
}

function CareThere({ care, cutterId }: { care: Care; cutterId: number }) {
  const unit = useUnit((state) => state.unit);
  return (
    <div className="absolute inset-0 overflow-y-auto p-4" tabIndex={0} aria-label="Blade and mat">
      <div className="mx-auto flex max-w-[60rem] flex-col gap-5">
        <section aria-label="Blades" className="flex flex-col gap-2">
          <h2 className="font-head text-lg font-bold">Blades</h2>
          <p className="text-sm">
            This job needs the <b>{care.wanted_blade}°</b> blade and takes{' '}
            <b className="figure">{showWay(care.metres * 1000, unit)}</b> of it (times abrasion).
          </p>
          <ul className="grid grid-cols-2 gap-3 max-[72rem]:grid-cols-1">
            {care.blades.map((one) => (
              <BladeCard key={one.id} one={one} cutterId={cutterId} />
            ))}
          </ul>
          <NewBlade />
        </section>
        {care.has_mat && (
          <section aria-label="Mats" className="flex flex-col gap-2">
            <h2 className="font-head text-lg font-bold">Mats</h2>
            <p className="text-sm">
              This stock needs <b>{care.wanted_tack} tack</b>.
            </p>
            <ul className="grid grid-cols-2 gap-3 max-[72rem]:grid-cols-1">
              {care.mats.map((one) => (
                <MatCard key={one.id} one={one} cutterId={cutterId} />
              ))}
            </ul>
            <NewMat />
          </section>
        )}
        <p className="text-sm text-soft">
          Take a blade out with the machine off, cap it, and keep fingers away from the tip. What the makers
          of blade and mat say comes before these figures.
        </p>
      </div>
    </div>
  );
}

/** How much is left of something, as a bar with its figure. */
function Gauge({ name, share, words }: { name: string; share: number; words: string }) {
  return (
    <span className="flex items-center gap-2 text-sm">
      <span className="w-20">{name}</span>
      <span aria-hidden className="h-2.5 min-w-16 flex-1 rounded-[3px] border border-rule bg-tray">
        <span className="block h-full rounded-[2px] bg-kingfisher" style={{ width: `${share * 100}%` }} />
      </span>
      <span className="figure w-36 text-right">{words}</span>
    </span>
  );
}

const WHEN = { now: 'Now', soon: 'Soon', fine: 'Good to know' } as const;

function Do({ advice }: { advice: Advice }) {
  return (
    <ul className="flex flex-col gap-1 text-sm">
      {advice.map((one) => (
        <li key={one.do}>
          <b className={one.urgency === 'now' ? 'text-rowan' : ''}>{WHEN[one.urgency]}:</b> {one.do}, since{' '}
          {one.why}.
        </li>
      ))}
    </ul>
  );
}

interface ThingProps<One> {
  one: One;
  cutterId: number;
}

function BladeCard({ one, cutterId }: ThingProps<Care['blades'][number]>) {
  const put = usePutIn('blades');
  const keep = useKeepBlade();
  const remove = useRemoveThing('blades');
  const unit = useUnit((state) => state.unit);
  const set = (changes: Partial<typeof one.blade>) =>
    keep.mutate({ id: one.id, name: one.name, blade: { ...one.blade, ...changes } });
  return (
    <li className={`panel flex flex-col gap-2 p-3 ${one.in_machine ? 'border-kingfisher' : ''}`}>
      <span className="flex items-baseline justify-between gap-2">
        <b>{one.name}</b>
        <span className="text-sm">
          {one.blade.angle}°
          {one.in_machine ? ', in the machine' : one.elsewhere ? ', in another machine' : ', in the drawer'}
        </span>
      </span>
      <Gauge
        name="edge left"
        share={one.sharpness}
        words={`${Math.round(one.sharpness * 100)} %, ${showWay(one.metres_left * 1000, unit, 0)} to go`}
      />
      <Do advice={one.advice} />
      <span className="flex flex-wrap gap-2">
        <Button
          look={one.in_machine ? 'plain' : 'act'}
          onClick={() => put.mutate({ id: one.id, cutter_id: cutterId })}
        >
          {one.in_machine ? 'Yes, it is in' : 'Put it in'}
        </Button>
        <Button onClick={() => set({ tuft: !one.blade.tuft })}>
          {one.blade.tuft ? 'Tip is clean again' : 'Tuft on it'}
        </Button>
        <Button onClick={() => set({ metres: 0, tuft: false })}>New tip</Button>
        <Button look="bare" aria-label={`Remove ${one.name}`} onClick={() => remove.mutate(one.id)}>
          Remove
        </Button>
      </span>
      {one.in_machine && one.confirmed_at && (
        <span className="text-sm text-soft">
          confirmed{' '}
          {new Date(one.confirmed_at).toLocaleString('en-GB', {
            day: 'numeric',
            month: 'long',
            hour: '2-digit',
            minute: '2-digit',
          })}
        </span>
      )}
    </li>
  );
}

function MatCard({ one, cutterId }: ThingProps<Care['mats'][number]>) {
  const put = usePutIn('mats');
  const keep = useKeepMat();
  const washed = useWashed();
  const remove = useRemoveThing('mats');
  const set = (changes: Partial<typeof one.mat>) =>
    keep.mutate({ id: one.id, name: one.name, mat: { ...one.mat, ...changes } });
  return (
    <li className={`panel flex flex-col gap-2 p-3 ${one.in_machine ? 'border-kingfisher' : ''}`}>
      <span className="flex items-baseline justify-between gap-2">
        <b>{one.name}</b>
        <span className="text-sm">
          {one.mat.tack} tack
          {one.in_machine ? ', in use' : one.elsewhere ? ', on another machine' : ', put by'}
        </span>
      </span>
      <Gauge
        name="tack left"
        share={one.held}
        words={`${Math.round(one.held * 100)} %, ${one.loads_left} loads to go`}
      />
      <span className="text-sm">
        {one.mat.loads} loads since it was {one.mat.washings ? 'washed' : 'new'}, washed {one.mat.washings}{' '}
        times
      </span>
      <Do advice={one.advice} />
      <span className="flex flex-wrap gap-2">
        <Button
          look={one.in_machine ? 'plain' : 'act'}
          onClick={() => put.mutate({ id: one.id, cutter_id: cutterId })}
        >
          {one.in_machine ? 'Yes, this one' : 'Use it'}
        </Button>
        <Button onClick={() => washed.mutate(one.id)}>Washed and dry</Button>
        <Button onClick={() => set({ lint: !one.mat.lint })}>
          {one.mat.lint ? 'Lint is off' : 'Lint on it'}
        </Button>
        <Button onClick={() => set({ taped: !one.mat.taped })}>
          {one.mat.taped ? 'Tape is off' : 'Rim is taped'}
        </Button>
        <Button look="bare" aria-label={`Remove ${one.name}`} onClick={() => remove.mutate(one.id)}>
          Remove
        </Button>
      </span>
    </li>
  );
}

function NewBlade() {
  const keep = useKeepBlade();
  const angles = useCatalog().data?.blade_angles ?? [];
  return (
    <NewThing
      label="A blade"
      kinds={angles}
      add={(name, angle) =>
        keep.mutate({ id: null, name, blade: { angle: angle as '45' | '60', metres: 0, tuft: false } })
      }
    />
  );
}

function NewMat() {
  const keep = useKeepMat();
  const tacks = useCatalog().data?.tacks ?? [];
  return (
    <NewThing
      label="A mat"
      kinds={tacks.map((one) => ({ ...one, name: `${one.name} tack` }))}
      add={(name, tack) =>
        keep.mutate({
          id: null,
          name,
          mat: { tack: tack as 'low' | 'medium' | 'high', loads: 0, washings: 0, lint: false, taped: false },
        })
      }
    />
  );
}

interface NewProps {
  label: string;
  kinds: readonly { key: string; name: string }[];
  add: (name: string, kind: string) => void;
}

function NewThing({ label, kinds, add }: NewProps) {
  const [name, setName] = useState('');
  const [kind, setKind] = useState<string | null>(null);
  const chosen = kind ?? kinds[0]?.key ?? '';
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        add(name.trim(), chosen);
        setName('');
      }}
    >
      <label className="flex flex-col gap-0.5 text-sm">
        {label}: what you call it
        <input
          className="field w-52"
          maxLength={80}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <Select bare label={`${label}: kind`} options={kinds} value={chosen} onChange={setKind} />
      <Button type="submit" disabled={!name.trim()}>
        Put it on the shelf
      </Button>
    </form>
  );
}
