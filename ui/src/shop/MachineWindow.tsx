import { useState } from 'react';

import type { Schemas } from '../api/client';
import type { View } from '../api/view';
import { type Changer } from '../api/changes';
import { useCatalog } from '../api/jobs';
import { useCutters, useKeepCutter, useKeepPrinter, usePrinters, useRemoveMachine } from '../api/shop';
import { Button } from '../kit/Button';
import { LengthField } from '../kit/LengthField';
import { NumberField } from '../kit/NumberField';
import { Options } from '../kit/Options';
import { Window } from '../kit/Window';
import { asSentence } from '../kit/words';

type Printer = Schemas['PrinterProfile'];
type Cutter = Schemas['CutterProfile'];

interface Props {
  kind: 'printer' | 'cutter';
  view: View;
  change: Changer;
  /** A new one, made from the job's present one. */
  asNew: boolean;
  open: boolean;
  close: () => void;
}

/** The profile of the job's printer or cutter, to be changed; or a new one like it. */
export function MachineWindow(props: Props) {
  const { kind, asNew, open, close } = props;
  const title = asNew ? `Add a ${kind}` : `Change this ${kind}`;
  return (
    <Window title={title} open={open} close={close}>
      {kind === 'printer' ? <PrinterForm {...props} /> : <CutterForm {...props} />}
    </Window>
  );
}

function PrinterForm({ view, change, asNew, close }: Props) {
  const printers = usePrinters().data;
  const catalog = useCatalog().data;
  const keep = useKeepPrinter();
  const id = view.job.document.printer_id;
  const now = printers?.find((one) => one.id === id)?.profile;
  const [draft, setDraft] = useState<Printer | null>(null);
  if (!now) return null;
  const profile = draft ?? (asNew ? { ...now, name: '', printer: { ...now.printer, practice: null } } : now);
  const margins = profile.printer.margins_mm;
  const set = (changes: Partial<Printer['printer']>) =>
    setDraft({ ...profile, printer: { ...profile.printer, ...changes } });
  const paper = profile.printer.set_to;
  const side = (name: 'top' | 'right' | 'bottom' | 'left') => (
    <LengthField
      key={name}
      label={`Blank at the ${name}`}
      value={margins[name]}
      onChange={(mm) => set({ margins_mm: { ...margins, [name]: mm } })}
    />
  );
  return (
    <Form
      name={profile.name}
      rename={(name) => setDraft({ ...profile, name })}
      kind="printers"
      id={asNew ? null : id}
      error={keep.error?.message}
      close={close}
      save={() =>
        keep.mutate(
          { id: asNew ? null : id, profile },
          {
            onSuccess: (saved) => {
              if (asNew && saved) change({ label: `on ${profile.name}`, changes: { printer_id: saved.id } });
              close();
            },
          },
        )
      }
    >
      <Options
        label="Kind of printer"
        columns={2}
        options={catalog?.printer_kinds ?? []}
        value={profile.printer.kind}
        onChange={(kind) => set({ kind: kind as Printer['printer']['kind'] })}
      />
      <Options
        label="What it is filled with"
        columns={2}
        options={(catalog?.inks ?? []).map((one) => ({ ...one, name: `${one.name} ink` }))}
        value={profile.printer.ink}
        onChange={(ink) => set({ ink: ink as Printer['printer']['ink'] })}
      />
      <fieldset className="flex flex-col gap-1">
        <legend className="mb-1 font-bold">The page it takes</legend>
        <Options
          label="The page it takes"
          columns={2}
          options={catalog?.page_boxes ?? []}
          value={profile.printer.page}
          onChange={(page) => set({ page: page as Printer['printer']['page'] })}
        />
      </fieldset>
      <div className="grid grid-cols-2 gap-3">{(['top', 'right', 'bottom', 'left'] as const).map(side)}</div>
      <label className="flex gap-2 text-sm">
        <input
          type="checkbox"
          className="mt-0.5 size-4 accent-kingfisher"
          checked={paper !== null}
          onChange={(event) =>
            set({
              set_to: event.target.checked
                ? {
                    width: view.job.document.paper.width_mm,
                    height: view.job.document.paper.height_mm,
                  }
                : null,
            })
          }
        />
        I know which paper its dialog is set to
      </label>
      {paper && (
        <div className="grid grid-cols-2 gap-3">
          <LengthField
            label="Set to, across"
            value={paper.width}
            onChange={(width) => set({ set_to: { ...paper, width } })}
          />
          <LengthField
            label="and along"
            value={paper.height}
            onChange={(height) => set({ set_to: { ...paper, height } })}
          />
        </div>
      )}
    </Form>
  );
}

function CutterForm({ view, change, asNew, close }: Props) {
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
    <Form
      name={profile.name}
      rename={(name) => setDraft({ ...profile, name })}
      kind="cutters"
      id={asNew ? null : id}
      error={keep.error?.message}
      close={close}
      save={() =>
        keep.mutate(
          { id: asNew ? null : id, profile },
          {
            onSuccess: (saved) => {
              if (asNew && saved) change({ label: `on ${profile.name}`, changes: { cutter_id: saved.id } });
              close();
            },
          },
        )
      }
    >
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
      {cutter.feed !== 'hand' && (
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
    </Form>
  );
}

interface FormProps {
  name: string;
  rename: (name: string) => void;
  kind: 'printers' | 'cutters';
  id: number | null;
  error: string | undefined;
  save: () => void;
  close: () => void;
  children: React.ReactNode;
}

function Form({ name, rename, kind, id, error, save, close, children }: FormProps) {
  const remove = useRemoveMachine(kind);
  return (
    <form
      className="flex flex-col gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <label className="flex flex-col gap-0.5 text-sm">
        Name
        <input
          className="field"
          value={name}
          maxLength={80}
          required
          onChange={(event) => rename(event.target.value)}
        />
      </label>
      {children}
      {(error ?? remove.error?.message) && (
        <p className="text-rowan" role="alert">
          {asSentence(error ?? remove.error?.message ?? '')}
        </p>
      )}
      <div className="flex gap-2">
        <Button type="submit" look="main" disabled={!name.trim()}>
          Save
        </Button>
        {id !== null && <Button onClick={() => remove.mutate(id, { onSuccess: close })}>Remove it</Button>}
      </div>
      <p className="text-sm text-soft">All jobs on it are planned anew with what is saved here.</p>
    </form>
  );
}
