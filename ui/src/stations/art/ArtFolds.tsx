import type { ItemDocument, Schemas } from '../../api/client';
import type { Item } from '../../api/view';
import { useCatalog, useRange } from '../../api/jobs';
import { useSplit } from '../../api/designs';
import { Button } from '../../kit/Button';
import { CountField } from '../../kit/CountField';
import { Fold } from '../../kit/Fold';
import { Scale } from '../../kit/Scale';
import { Slider } from '../../kit/Slider';

interface Props {
  document: ItemDocument;
  set: (label: string, changes: Record<string, unknown>) => void;
  attempt: (changes: Record<string, unknown>) => void;
}

/** Which page of a PDF it is. */
export function PageFold({ item, document, set }: Omit<Props, 'attempt'> & { item: Item }) {
  if (item.pages < 2) return null;
  return (
    <Fold title="Page" summary={`${document.prepare.page} of ${item.pages}`} open>
      <CountField
        label="Page"
        value={document.prepare.page}
        most={item.pages}
        onChange={(page) => set('page', { 'prepare.page': page })}
      />
    </Fold>
  );
}

/** The background: as it came, or lifted off from the rim inwards. */
export function GroundFold({ document, set, attempt }: Props) {
  const start = useCatalog().data?.start_lift_de ?? 0;
  const range = useRange('prepare.lift_de');
  const lift = document.prepare.lift_de ?? null;
  return (
    <Fold title="Background" summary={lift === null ? 'as it came' : `lifted, ΔE ${lift.toFixed(0)}`}>
      {lift === null ? (
        <Button onClick={() => set('lift background', { 'prepare.lift_de': start })}>Lift background</Button>
      ) : (
        <>
          <Scale
            label="How alike counts as background"
            value={lift}
            min={range.min}
            max={range.max}
            step={1}
            words={(value) => `ΔE ${value.toFixed(0)}`}
            hint="only what is joined to the rim is lifted"
            onMove={(value) => attempt({ 'prepare.lift_de': value })}
            onChange={(value) => set('background', { 'prepare.lift_de': value })}
          />
          <Button onClick={() => set('put the background back', { 'prepare.lift_de': null })}>
            Put it back
          </Button>
        </>
      )}
      {document.prepare.crop && (
        <Button onClick={() => set('no crop', { 'prepare.crop': null, 'prepare.cut_off': false })}>
          Undo the crop
        </Button>
      )}
    </Fold>
  );
}

/** Where a soft rim counts as the end of the drawing. */
export function RimFold({ document, set, attempt }: Props) {
  const range = useRange('prepare.threshold');
  const threshold = document.prepare.threshold;
  const words = (value: number) => `${Math.round(value * 100)} %`;
  return (
    <Fold title="Where it ends" summary={`at ${words(threshold)}`}>
      <Scale
        label="Counts as inked from"
        value={threshold}
        min={range.min}
        max={range.max}
        step={0.05}
        words={words}
        hint="lower takes more of a glow or shadow in"
        onMove={(value) => attempt({ 'prepare.threshold': value })}
        onChange={(value) => set('where it ends', { 'prepare.threshold': value })}
      />
    </Fold>
  );
}

interface SeveralProps {
  jobId: number;
  number: number;
  groups: Schemas['GroupsOut'] | undefined;
  apart: number | null;
  setApart: (mm: number | null) => void;
}

/** Several drawings in one picture: how far apart they must be, and each its own design. */
export function SeveralFold({ jobId, number, groups, apart, setApart }: SeveralProps) {
  const split = useSplit(jobId);
  if (!groups) return null;
  const count = groups.boxes.length;
  return (
    <Fold title="Several in one" summary={count === 1 ? 'one drawing' : `${count} drawings`}>
      <Slider
        label="Farther apart than"
        value={apart ?? groups.apart_mm}
        max={Math.max(groups.apart_mm * 6, apart ?? 0)}
        step={0.5}
        hint={`counts as another drawing; here ${count}`}
        onMove={(mm) => mm > 0 && setApart(mm)}
        onChange={(mm) => mm > 0 && setApart(mm)}
      />
      <Button
        disabled={count < 2 || split.isPending}
        onClick={() => {
          split.mutate({ number, apart_mm: apart ?? groups.apart_mm });
          setApart(null);
        }}
      >
        Split into {count}
      </Button>
    </Fold>
  );
}
