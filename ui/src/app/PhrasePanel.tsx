import { useState } from 'react';

import type { View } from '../api/client';
import { type Changer, useCatalog, useChoices } from '../api/hooks';
import { Button } from '../kit/Button';
import { CountField } from '../kit/CountField';
import { LengthField } from '../kit/LengthField';
import { Options } from '../kit/Options';
import { Slider } from '../kit/Slider';
import { MachineWindow } from './MachineWindow';

interface Props {
  phrase: string;
  view: View;
  change: Changer;
  close: () => void;
}

/** What opens under a phrase of the brief. */
export function PhrasePanel(props: Props) {
  switch (props.phrase) {
    case 'pieces':
      return <Pieces {...props} />;
    case 'edge':
      return <Edges {...props} />;
    case 'cut':
      return <Cuts {...props} />;
    case 'packing':
      return (
        <>
          <Choices {...props} />
          <Packing {...props} />
        </>
      );
    case 'paper':
      return (
        <>
          <Choices {...props} />
          <OwnPaper {...props} />
          <SpentPaper {...props} />
        </>
      );
    case 'printer':
    case 'cutter':
      return (
        <>
          <Choices {...props} />
          <Machine {...props} kind={props.phrase} />
        </>
      );
    default:
      return <Choices {...props} />;
  }
}

function Choices({ phrase, view, change, close }: Props) {
  const choices = useChoices(view.job.id, phrase);
  if (choices.error) return <p className="text-rowan">{choices.error.message}</p>;
  return (
    <ul className="flex flex-col gap-1" aria-busy={choices.isPending}>
      {choices.isPending && <li className="text-soft">Working out what each would mean …</li>}
      {choices.data?.map((choice) => (
        <li key={choice.label}>
          <button
            type="button"
            aria-pressed={choice.chosen}
            className={`w-full rounded-[6px] border px-2.5 py-1.5 text-left hover:border-kingfisher ${
              choice.chosen ? 'border-kingfisher bg-tray' : 'border-transparent'
            }`}
            onClick={() => {
              change({ label: choice.label, changes: choice.changes });
              close();
            }}
          >
            <span className="block font-bold">
              {choice.label}
              {choice.proposed && <span className="ml-2 text-sm font-normal text-moss">proposed</span>}
            </span>
            <span className="block text-sm text-soft">{choice.consequence}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}

function Pieces({ view, change }: Props) {
  const items = view.job.document.items ?? [];
  if (items.length === 0) return <p>Drop pictures anywhere on this page, or press “Add art”.</p>;
  return (
    <ul className="flex flex-col gap-2">
      {items.map((item) => (
        <li key={item.number} className="flex items-center justify-between gap-3">
          <span className="truncate">{item.name}</span>
          <CountField
            label={`How many of ${item.name}`}
            value={item.quantity ?? 1}
            onChange={(quantity) =>
              change({ label: `number of ${item.name}`, numbers: [item.number], changes: { quantity } })
            }
          />
        </li>
      ))}
    </ul>
  );
}

function Edges({ view, change }: Props) {
  const catalog = useCatalog();
  const items = view.job.document.items ?? [];
  const numbers = items.map((item) => item.number);
  const first = items[0]?.edge;
  if (!first || !catalog.data) return <p>Add art first; its border is set here.</p>;
  const same = items.every((item) => item.edge?.kind === first.kind);
  return (
    <>
      <p className="text-sm text-soft">For all designs at once; single ones are set at the Edge station.</p>
      <Slider
        label="Border"
        value={first.distance_mm ?? 3}
        max={10}
        hint={`safe from ${catalog.data.least_border_mm} mm, even-looking from ${catalog.data.even_border_mm.toFixed(1)}`}
        onChange={(mm) =>
          change({ label: 'border of all designs', numbers, changes: { 'edge.distance_mm': mm } })
        }
      />
      <Options
        label="Kind of edge"
        columns={2}
        options={catalog.data.edge_kinds}
        value={same ? (first.kind ?? null) : null}
        onChange={(kind) => change({ label: 'kind of edge', numbers, changes: { 'edge.kind': kind } })}
      />
    </>
  );
}

function Cuts({ view, change }: Props) {
  const items = view.job.document.items ?? [];
  // What is really made: a stock without a backing is cut through, whatever was asked for.
  const made = (item: (typeof items)[number]) =>
    view.plan?.items.find((one) => one.number === item.number)?.cut ?? item.cut;
  const possible = (cut: string) => view.plan?.settings.some((one) => one.cut === cut) ?? true;
  const all = (cut: string) =>
    change({ label: `${cut} cut for all`, numbers: items.map((item) => item.number), changes: { cut } });
  return (
    <>
      <ul className="flex flex-col gap-1.5">
        {items.map((item) => (
          <li key={item.number} className="flex items-center justify-between gap-3">
            <span className="truncate">{item.name}</span>
            <span className="flex gap-1">
              {['kiss', 'through'].map((cut) => (
                <Button
                  key={cut}
                  aria-pressed={made(item) === cut}
                  disabled={!possible(cut)}
                  aria-label={`${item.name}: ${cut} cut`}
                  look={made(item) === cut ? 'act' : 'plain'}
                  onClick={() =>
                    change({ label: `${cut} cut for ${item.name}`, numbers: [item.number], changes: { cut } })
                  }
                >
                  {cut}
                </Button>
              ))}
            </span>
          </li>
        ))}
      </ul>
      <div className="flex gap-2">
        <Button onClick={() => all('kiss')} disabled={!possible('kiss')}>
          All kiss
        </Button>
        <Button onClick={() => all('through')}>All through</Button>
      </div>
      {!possible('kiss') && (
        <p className="text-sm text-soft">This stock has no backing to stop in, so it is cut through.</p>
      )}
    </>
  );
}

/** Change the profile of the job's machine, or add another one. */
function Machine({ view, change, kind }: Props & { kind: 'printer' | 'cutter' }) {
  const [open, setOpen] = useState<'change' | 'add' | null>(null);
  return (
    <div className="flex gap-2 border-t border-rule pt-3">
      <Button onClick={() => setOpen('change')}>Change this {kind}</Button>
      <Button onClick={() => setOpen('add')}>Add a {kind}</Button>
      <MachineWindow
        kind={kind}
        view={view}
        change={change}
        asNew={open === 'add'}
        open={open !== null}
        close={() => setOpen(null)}
      />
    </div>
  );
}

function Packing({ view, change }: Props) {
  const catalog = useCatalog();
  const packing = view.job.document.packing;
  const limit = packing?.max_sheets ?? null;
  return (
    <div className="flex flex-col gap-3 border-t border-rule pt-3">
      {view.plan?.by_hand ? (
        <p className="text-sm text-soft">Cut by hand, pieces always lie in straight rows.</p>
      ) : (
        <Options
          label="How pieces share sheets"
          columns={2}
          options={catalog.data?.modes ?? []}
          value={packing?.mode ?? 'mixed'}
          onChange={(mode) => change({ label: 'how pieces share sheets', changes: { 'packing.mode': mode } })}
        />
      )}
      <LengthField
        label="Between pieces"
        value={packing?.gap_mm ?? 2}
        hint="3 mm or more beside pieces that are cut through"
        onChange={(mm) => change({ label: 'gap', changes: { 'packing.gap_mm': mm } })}
      />
      <div className="flex flex-wrap items-center gap-2">
        <span>Sheets</span>
        <Button
          aria-pressed={limit === null}
          look={limit === null ? 'act' : 'plain'}
          onClick={() => change({ label: 'any number of sheets', changes: { 'packing.max_sheets': null } })}
        >
          as many as needed
        </Button>
        <span>at most</span>
        <CountField
          label="Sheets at most"
          value={limit ?? view.plan?.sheets.length ?? 1}
          onChange={(count) => change({ label: 'sheets at most', changes: { 'packing.max_sheets': count } })}
        />
      </div>
    </div>
  );
}

function OwnPaper({ view, change }: Props) {
  const paper = view.job.document.paper;
  return (
    <div className="flex gap-4 border-t border-rule pt-3">
      <LengthField
        label="Width"
        value={paper.width_mm}
        onChange={(mm) => change({ label: 'paper width', changes: { 'paper.width_mm': mm } })}
      />
      <LengthField
        label="Height"
        value={paper.height_mm}
        onChange={(mm) => change({ label: 'paper height', changes: { 'paper.height_mm': mm } })}
      />
    </div>
  );
}

const SPENT_FIELDS = [
  ['left_mm', 'From the left'],
  ['top_mm', 'From the top'],
  ['width_mm', 'Width'],
  ['height_mm', 'Height'],
] as const;

/** A first sheet that was used before: the rectangle of it that is gone. */
function SpentPaper({ view, change }: Props) {
  const paper = view.job.document.paper;
  const spent = paper.spent ?? null;
  const set = (next: typeof spent) =>
    change({ label: next ? 'part-used sheet' : 'whole sheet', changes: { 'paper.spent': next } });
  return (
    <div className="flex flex-col gap-2 border-t border-rule pt-3">
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          className="h-4 w-4 accent-kingfisher"
          checked={spent !== null}
          onChange={(event) =>
            set(
              event.target.checked
                ? {
                    left_mm: 0,
                    top_mm: 0,
                    width_mm: paper.width_mm,
                    height_mm: Math.round(paper.height_mm / 3),
                  }
                : null,
            )
          }
        />
        the first sheet was used before; gone of it is
      </label>
      {spent && (
        <div className="grid grid-cols-2 gap-2">
          {SPENT_FIELDS.map(([field, name]) => (
            <LengthField
              key={field}
              label={name}
              value={spent[field] ?? 0}
              onChange={(mm) => set({ ...spent, [field]: mm })}
            />
          ))}
        </div>
      )}
    </div>
  );
}
