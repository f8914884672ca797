import type { ItemDocument } from '../../api/client';
import type { Item } from '../../api/view';
import { useCatalog, useRange } from '../../api/jobs';
import { useTrial, useTurnHole } from '../../api/designs';
import { Findings } from '../../look/Findings';
import { Slider } from '../../kit/Slider';
import { Tick } from '../../kit/Tick';
import { showArea, showLength, useUnit } from '../../kit/units';
import { BothSidesFold } from './BothSidesFold';
import { BleedFold, CornersFold, HolesFold, RingsFold, StylesFold } from './EdgeFolds';
import { ForItem, type OpenItem } from '../../look/ForItem';
import { Figure, Frame } from '../../look/Frame';
import type { StationProps } from '../../look/station';
import { ItemStrip, useNumbers } from '../../look/ItemStrip';
import { ItemView } from '../../look/ItemView';
import { ShapeCards } from './ShapeCards';

/** Where will the blade run? */
export default function EdgeStation(props: StationProps) {
  return (
    <ForItem {...props} waiting="Borders are set here once there is art.">
      {(open) => <OpenEdge key={open.item.number} {...open} />}
    </ForItem>
  );
}

function OpenEdge({ view, change, item, document, stock, white, clearOnce }: OpenItem) {
  const unit = useUnit((state) => state.unit);
  const trial = useTrial(view.job.id, item.number);
  const numbers = useNumbers(view, item);
  const own = view.findings.filter(
    (finding) => finding.item_number === item.number && finding.station === 'edge',
  );
  const pressing = own.some((finding) => finding.severity !== 'note' && !finding.meant);
  const shown = { ...item, ...trial.tried };
  const others = (view.job.document.items ?? [])
    .map((one) => one.number)
    .filter((number) => number !== item.number);
  const set = (label: string, changes: Record<string, unknown>) => {
    change({ label, numbers, changes }, trial.drop);
  };
  const turnHole = useTurnHole(view.job.id);
  const toggleHole = (hole: Item['holes'][number]) => turnHole.mutate({ number: item.number, at: hole.at });
  const found = (
    <Findings
      findings={own}
      all={view.findings}
      named={false}
      items={view.job.document.items ?? []}
      jobId={view.job.id}
      title={`The ${item.name}’s edge`}
    />
  );
  return (
    <Frame
      foot={
        <div className="flex items-center justify-between gap-6">
          <ItemStrip view={view} chosen={item} />
          <div className="flex shrink-0 gap-6">
            <Figure name="least border">{showLength(shown.least_border_mm, unit)}</Figure>
            <Figure name="edge">{showLength(shown.edge_length_mm, unit, 0)}</Figure>
            <Figure name="stock a piece">{showArea(shown.area_cm2, unit)}</Figure>
          </div>
        </div>
      }
      side={
        <>
          {pressing && found}
          <EdgeControls
            document={document}
            several={numbers.length}
            miss={view.plan ?? { miss_mm: 0, even_border_mm: 0 }}
            set={set}
            attempt={trial.attempt}
            shapes={<ShapeCards view={view} item={item} set={set} />}
          />
          <HolesFold item={shown} onHole={toggleHole} />
          <RingsFold document={document} set={set} />
          <CornersFold document={document} set={set} attempt={trial.attempt} />
          <BleedFold item={item} document={document} set={set} program={view.parts?.program_bleed ?? null} />
          <BothSidesFold jobId={view.job.id} document={document} items={view.job.document.items ?? []} />
          <StylesFold
            document={document}
            set={set}
            others={others.length}
            giveToOthers={() =>
              change({
                label: 'the same edge for all',
                numbers: others,
                changes: { edge: { ...document.edge, keep_holes: [] } },
              })
            }
          />
          {!pressing && found}
        </>
      }
    >
      <ItemView item={shown} stock={stock} white={white} clearOnce={clearOnce} withEdge onHole={toggleHole} />
    </Frame>
  );
}

interface ControlProps {
  document: ItemDocument;
  several: number;
  miss: { miss_mm: number; even_border_mm: number };
  set: (label: string, changes: Record<string, unknown>) => void;
  attempt: (changes: Record<string, unknown>) => void;
  shapes: React.ReactNode;
}

function EdgeControls({ document, several, miss, set, attempt, shapes }: ControlProps) {
  const catalog = useCatalog();
  const unit = useUnit((state) => state.unit);
  const [smooth, corner] = [useRange('edge.smooth_mm'), useRange('edge.corner_mm')];
  const edge = document.edge;
  const kind = catalog.data?.edge_kinds.find((one) => one.key === edge.kind);
  if (!catalog.data || !kind) return null;
  const uses = (field: string) => kind.uses.includes(field);
  return (
    <section aria-label="Edge" className="flex flex-col gap-3.5">
      <h2 className="font-head text-lg leading-tight font-bold">
        {several > 1 ? `Border of ${several} designs` : `Border of the ${document.name}`}
      </h2>
      {edge.rings.length === 0 && (
        <Slider
          label={!kind.has_border ? 'Inside by' : 'Border'}
          value={edge.distance_mm}
          min={kind.least_mm}
          max={kind.most_mm}
          hint={
            !kind.has_border
              ? 'below 0 the edge runs inside the drawing'
              : `safe from ${showLength(miss.miss_mm, unit)}, even-looking from ${showLength(miss.even_border_mm, unit)}`
          }
          onMove={(mm) => attempt({ 'edge.distance_mm': mm })}
          onChange={(mm) => set('border', { 'edge.distance_mm': mm })}
        />
      )}
      {uses('smooth_mm') && (
        <Slider
          label="Smoothing"
          value={edge.smooth_mm}
          max={smooth.max}
          hint="inner corners are rounded to this radius or more"
          onMove={(mm) => attempt({ 'edge.smooth_mm': mm })}
          onChange={(mm) => set('smoothing', { 'edge.smooth_mm': mm })}
        />
      )}
      {uses('corner_mm') && (
        <Slider
          label="Corner radius"
          value={edge.corner_mm}
          max={corner.max}
          onMove={(mm) => attempt({ 'edge.corner_mm': mm })}
          onChange={(mm) => set('corner radius', { 'edge.corner_mm': mm })}
        />
      )}
      {shapes}
      {uses('fill_holes') && (
        <div className="flex flex-col gap-1.5">
          <Tick
            label="Fill holes"
            on={edge.fill_holes}
            set={(on) => set('holes', { 'edge.fill_holes': on })}
          />
          {uses('join') && (
            <Tick label="Join loose parts" on={edge.join} set={(on) => set('joining', { 'edge.join': on })} />
          )}
        </div>
      )}
    </section>
  );
}
