import { useState } from 'react';

import type { Item, View } from '../../api/view';
import { type Composition, useCompose, useComposedPreview } from '../../api/compose';
import { useCatalog } from '../../api/jobs';
import { Button } from '../../kit/Button';
import { Tick } from '../../kit/Tick';
import { CountField } from '../../kit/CountField';
import { Window } from '../../kit/Window';
import { asSentence } from '../../kit/words';
import { ComposeArts } from './ComposeArts';
import { ComposeBase } from './ComposeBase';
import { ComposeCanvas } from './ComposeCanvas';
import { ComposeFree } from './ComposeFree';
import { ComposeLines } from './ComposeLines';

interface Props {
  view: View;
  /** The design to be changed, with how it was made; or nothing, to make new ones. */
  editing: { item: Item; composition: Composition; name: string } | null;
  close: () => void;
}

const firstName = (names: string) =>
  names
    .split('\n')
    .map((line) => line.trim())
    .find((line) => line && line.toLowerCase() !== 'name') ?? 'Name';

/** A base shape with arts and text on it, one piece for each name. */
export default function ComposeDialog(props: Props) {
  const start = useCatalog().data?.start.composition;
  const first = props.editing?.composition ?? start;
  return first ? <Composed {...props} first={first} /> : null;
}

function Composed({ view, editing, close, first }: Props & { first: Composition }) {
  const [composition, setComposition] = useState<Composition>(first);
  const [names, setNames] = useState(editing?.name ?? '');
  const [title, setTitle] = useState('name label');
  const [quantity, setQuantity] = useState(1);
  const [apart, setApart] = useState(false);
  const preview = useComposedPreview(composition, editing ? names : firstName(names));
  const { add, redo } = useCompose(view.job.id, close);
  const set = (part: Partial<Composition>) => setComposition((before) => ({ ...before, ...part }));
  const takesNames = composition.lines.some((line) => line.text.includes('{name}'));
  const make = () =>
    editing
      ? redo.mutate({ number: editing.item.number, body: { composition, name: names } })
      : add.mutate({
          composition,
          names: takesNames ? names : '',
          title,
          quantity,
          cut: 'kiss',
          curved_apart: apart,
        });
  return (
    <Window
      title={editing ? `Change ${editing.item.name}` : 'Compose a piece'}
      about="A shape of fixed size that carries pictures and text; one for each name."
      open
      wide
      fill
      close={close}
      foot={
        <>
          {!editing && (
            <>
              <label className="flex items-center gap-2 text-sm">
                Called
                <input
                  className="field w-44"
                  value={title}
                  maxLength={80}
                  onChange={(event) => setTitle(event.target.value)}
                />
              </label>
              <span className="flex items-center gap-2 text-sm">
                How many of each
                <CountField label="How many of each" value={quantity} onChange={setQuantity} />
              </span>
            </>
          )}
          <span className="min-w-0 flex-1 text-sm text-rowan" role="alert">
            {asSentence((add.error ?? redo.error)?.message ?? '')}
          </span>
          <Button look="main" onClick={make} disabled={add.isPending || redo.isPending || !title.trim()}>
            {editing ? 'Change it' : 'Add to the job'}
          </Button>
        </>
      }
    >
      <div className="checked-ground flex min-h-[22rem] flex-1 flex-col items-center justify-center gap-3 p-6">
        {preview.url && preview.places && (
          <ComposeCanvas
            url={preview.url}
            alt={`The piece for ${editing ? names : firstName(names)}`}
            composition={composition}
            places={preview.places}
            set={set}
          />
        )}
        <p className="text-sm text-soft">Drag a part, or nudge it with the arrow keys.</p>
        {preview.problem && (
          <p role="alert" className="panel px-3 py-2 text-rowan">
            {asSentence(preview.problem)}
          </p>
        )}
      </div>
      <div
        tabIndex={0}
        role="group"
        aria-label="What is on it"
        className="flex w-[26rem] flex-col gap-4 overflow-y-auto border-l border-rule p-4"
      >
        <ComposeBase composition={composition} set={set} />
        <ComposeLines composition={composition} set={set} />
        {!editing && composition.lines.some((line) => line.radius_mm != null) && (
          <Tick
            label="Lettering along an arc as a piece of its own, to be laid by itself on something round"
            on={apart}
            set={setApart}
          />
        )}
        <ComposeArts view={view} composition={composition} set={set} />
        <ComposeFree composition={composition} set={set} />
        {editing ? (
          <Name value={names} onChange={setNames} />
        ) : (
          takesNames && <Names value={names} onChange={setNames} />
        )}
      </div>
    </Window>
  );
}

function Name({ value, onChange }: { value: string; onChange: (value: string) => void }) {
  return (
    <label className="flex flex-col text-sm">
      The name on it
      <input
        className="field"
        value={value}
        maxLength={80}
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  );
}

function Names({ value, onChange }: { value: string; onChange: (value: string) => void }) {
  const count = value.split('\n').filter((line) => line.trim()).length;
  return (
    <section aria-label="Names" className="flex flex-col gap-1.5">
      <label className="flex flex-col text-sm">
        <span>
          <b>Names</b>, one on each line{count > 0 && ` (${count})`}
        </span>
        <textarea
          className="field h-24"
          value={value}
          onChange={(event) => onChange(event.target.value)}
          placeholder={'Ada\nBo\nCleo'}
        />
      </label>
      <label className="text-sm">
        or from a CSV file{' '}
        <input
          type="file"
          accept=".csv,.txt,text/csv,text/plain"
          className="text-sm"
          onChange={(event) => void event.target.files?.[0]?.text().then(onChange)}
        />
      </label>
    </section>
  );
}
