import { useState } from 'react';

import type { ItemDocument } from '../../api/client';
import type { Item } from '../../api/view';
import { useCatalog, useRange } from '../../api/jobs';
import { useRemoveStyle, useSaveStyle, useStyles } from '../../api/designs';
import { Button } from '../../kit/Button';
import { Fold } from '../../kit/Fold';
import { LengthField } from '../../kit/LengthField';
import { asSentence } from '../../kit/words';
import { Slider } from '../../kit/Slider';
import { showLength, useUnit } from '../../kit/units';
import { Explained } from '../../look/Explained';

type Set = (label: string, changes: Record<string, unknown>) => void;

interface Props {
  document: ItemDocument;
  set: Set;
}

const useUses = (document: ItemDocument, field: string) =>
  useCatalog()
    .data?.edge_kinds.find((kind) => kind.key === document.edge.kind)
    ?.uses.includes(field) ?? false;

/** As many holes as are listed before somebody asks for all of them. */
const FIRST_HOLES = 24;

/** Every hole of the drawing, to be kept open or filled; clicking it in the drawing does the same. */
export function HolesFold({ item, onHole }: { item: Item; onHole: (hole: Item['holes'][number]) => void }) {
  const [all, setAll] = useState(false);
  const open = item.holes.filter((hole) => hole.open).length;
  if (item.holes.length === 0) return null;
  const listed = all ? item.holes : item.holes.slice(0, FIRST_HOLES);
  return (
    <Fold title="Holes" summary={`${open} open, ${item.holes.length - open} filled`}>
      <p className="text-sm text-soft">
        Click a hole in the drawing, or here, to keep it open or fill it. The largest come first.
      </p>
      <ul className="flex flex-wrap gap-1.5">
        {listed.map((hole, index) => (
          <li key={index}>
            <Button look={hole.open ? 'act' : 'plain'} aria-pressed={hole.open} onClick={() => onHole(hole)}>
              {index + 1} {hole.open ? 'open' : 'filled'}
            </Button>
          </li>
        ))}
      </ul>
      {item.holes.length > FIRST_HOLES && (
        <Button onClick={() => setAll(!all)}>
          {all ? `The ${FIRST_HOLES} largest only` : `All ${item.holes.length}`}
        </Button>
      )}
    </Fold>
  );
}

/** The border's colour, or a stack of rings from the drawing outwards. */
export function RingsFold({ document, set }: Props) {
  const unit = useUnit((state) => state.unit);
  const uses = useUses(document, 'rings');
  const start = useCatalog().data?.start.ring;
  const { rings, distance_mm, colour } = document.edge;
  if (!uses) return null;
  const stack = rings.length > 0 ? rings : [{ width_mm: distance_mm, colour: colour ?? null }];
  const summary = stack
    .map((ring) => `${showLength(ring.width_mm, unit)} ${ring.colour ?? 'bare'}`)
    .join(', ');
  const write = (next: typeof stack) => {
    const [only] = next;
    if (next.length === 1 && only)
      set('border', {
        'edge.rings': [],
        'edge.distance_mm': only.width_mm,
        'edge.colour': only.colour ?? null,
      });
    else set('rings of the border', { 'edge.rings': next });
  };
  const replace = (index: number, part: Partial<(typeof stack)[number]>) =>
    write(stack.map((ring, n) => (n === index ? { ...ring, ...part } : ring)));
  return (
    <Fold title="Colour" summary={summary}>
      {stack.map((ring, index) => (
        <div key={index} className="flex flex-wrap items-end gap-x-3 gap-y-1.5">
          {rings.length > 0 && (
            <LengthField
              label={
                index === 0 ? 'Inner ring' : index === stack.length - 1 ? 'Outer ring' : `Ring ${index + 1}`
              }
              value={ring.width_mm}
              onChange={(mm) => mm > 0 && replace(index, { width_mm: mm })}
            />
          )}
          <Button
            aria-pressed={!ring.colour}
            look={ring.colour ? 'plain' : 'act'}
            onClick={() => replace(index, { colour: null })}
          >
            bare
          </Button>
          <label className="flex items-center gap-2">
            printed
            <input
              type="color"
              value={ring.colour ?? start?.colour ?? ''}
              onChange={(event) => replace(index, { colour: event.target.value })}
            />
          </label>
          {stack.length > 1 && (
            <Button look="bare" onClick={() => write(stack.filter((_, n) => n !== index))}>
              Remove
            </Button>
          )}
        </div>
      ))}
      {distance_mm > 0 && stack.length < 6 && (
        <Button onClick={() => start && write([...stack, start])}>Add a ring</Button>
      )}
    </Fold>
  );
}

export function CornersFold({
  document,
  set,
  attempt,
}: Props & { attempt: (changes: Record<string, unknown>) => void }) {
  const unit = useUnit((state) => state.unit);
  const most = useRange('edge.fillet_mm').max;
  if (!useUses(document, 'fillet_mm')) return null;
  const radius = document.edge.fillet_mm;
  return (
    <Fold title="Corners" summary={radius ? `rounded by ${showLength(radius, unit)}` : 'as they come'}>
      <Slider
        label="Least corner radius"
        value={radius}
        max={most}
        hint="sharp corners are the first to lift, on cloth and outdoors"
        onMove={(mm) => attempt({ 'edge.fillet_mm': mm })}
        onChange={(mm) => set('corners', { 'edge.fillet_mm': mm })}
      />
    </Fold>
  );
}

/** Bleed is computed; it can be set by hand. */
export function BleedFold({ item, document, set, program }: Props & { item: Item; program: string | null }) {
  const unit = useUnit((state) => state.unit);
  const own = document.bleed_mm ?? null;
  if (program !== null)
    return (
      <Fold title="Bleed" summary="by its program">
        <p className="text-sm">{asSentence(program)}</p>
        <p className="text-sm text-soft">
          <Explained text="Your machine’s own program adds the bleed, or not; what to switch is under Print." />
        </p>
      </Fold>
    );
  const width = item.bleed_mm ? showLength(item.bleed_mm, unit) : 'none';
  return (
    <Fold title="Bleed" summary={`${width}, ${own === null ? 'computed' : 'by hand'}`}>
      <p className="text-sm text-soft">
        <Explained
          text={
            own === null
              ? 'The bleed is worked out from what is printed along the edge and how far a cut usually misses.'
              : 'You set the bleed by hand.'
          }
        />
      </p>
      <div className="flex flex-wrap items-end gap-2">
        <Button
          aria-pressed={own === null}
          look={own === null ? 'act' : 'plain'}
          onClick={() => set('bleed computed', { bleed_mm: null })}
        >
          computed
        </Button>
        <Button
          aria-pressed={own === 0}
          look={own === 0 ? 'act' : 'plain'}
          onClick={() => set('no bleed', { bleed_mm: 0 })}
        >
          none
        </Button>
        <LengthField
          label="By hand"
          value={own ?? item.bleed_mm}
          onChange={(mm) => set('bleed', { bleed_mm: mm })}
        />
      </div>
    </Fold>
  );
}

interface StylesProps extends Props {
  /** How many other designs the job has. */
  others: number;
  giveToOthers: () => void;
}

/** Edges kept under a name, for this design or for any other. */
export function StylesFold({ document, set, others, giveToOthers }: StylesProps) {
  const styles = useStyles();
  const save = useSaveStyle();
  const remove = useRemoveStyle();
  const [name, setName] = useState('');
  const all = styles.data ?? [];
  return (
    <Fold title="Same edge again" summary={all.length ? `${all.length} saved` : 'none saved yet'}>
      {others > 0 && (
        <Button onClick={giveToOthers}>
          {others === 1 ? 'Use it for the other design' : `Use it for the ${others} other designs`}
        </Button>
      )}
      {all.map((style) => (
        <div key={style.name} className="flex items-center justify-between gap-2">
          <Button
            className="min-w-0 flex-1"
            onClick={() => set(style.name, { edge: { ...style.edge, keep_holes: document.edge.keep_holes } })}
          >
            <span className="truncate">{style.name}</span>
          </Button>
          <Button look="bare" aria-label={`Remove ${style.name}`} onClick={() => remove.mutate(style.name)}>
            Remove
          </Button>
        </div>
      ))}
      <form
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim()) save.mutate({ name, edge: document.edge });
          setName('');
        }}
      >
        <label className="flex min-w-0 flex-1 flex-col text-sm">
          Save this edge as
          <input
            className="field w-full"
            value={name}
            maxLength={60}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <Button type="submit">Save</Button>
      </form>
    </Fold>
  );
}
