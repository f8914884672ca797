import { useState } from 'react';

import type { Schemas } from '../api/client';
import { useCatalog } from '../api/jobs';
import { useKeepPrinter, usePrinters } from '../api/shop';
import { LengthField } from '../kit/LengthField';
import { Options } from '../kit/Options';
import { MachineForm, type MachineProps } from './MachineForm';

type Printer = Schemas['PrinterProfile'];
type TrayFace = Schemas['TrayFace'];

/** The profile of a printer. */
export function PrinterForm({ view, change, asNew, close }: MachineProps) {
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
    <MachineForm
      kind="printer"
      id={asNew ? null : id}
      name={profile.name}
      rename={(name) => setDraft({ ...profile, name })}
      error={keep.error?.message}
      keep={(kept) => keep.mutate({ id: asNew ? null : id, profile }, { onSuccess: kept })}
      change={change}
      close={close}
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
      <fieldset className="flex flex-col gap-1">
        <legend className="mb-1 font-bold">Which side of a sheet in its tray it prints</legend>
        <Options
          label="Which side of a sheet in its tray it prints"
          columns={2}
          options={catalog?.tray_faces ?? []}
          value={profile.printer.tray ?? null}
          onChange={(tray) => set({ tray: tray as TrayFace })}
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
    </MachineForm>
  );
}
