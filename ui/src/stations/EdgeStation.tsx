import { type Changer, useCatalog } from '../api/hooks';
import type { ItemDocument, View } from '../api/client';
import { Findings } from '../app/Findings';
import { Button } from '../kit/Button';
import { Options } from '../kit/Options';
import { Slider } from '../kit/Slider';
import { showLength, useUnit } from '../kit/units';
import { Empty, Figure, Frame } from './Frame';
import type { StationProps } from './index';
import { ItemStrip, useItem } from './ItemStrip';
import { ItemView } from './ItemView';

/** Where will the blade run? */
export function EdgeStation({ view, change, add }: StationProps) {
  const item = useItem(view);
  const unit = useUnit((state) => state.unit);
  const document = view.job.document.items?.find((one) => one.number === item?.number);
  if (!view.plan || !item || !document)
    return (
      <Frame side={<p className="text-soft">Borders are set here once there is art.</p>} foot={null}>
        <Empty view={view} add={add} />
      </Frame>
    );
  const own = view.findings.filter(
    (finding) => finding.item_number === item.number && finding.station === 'edge',
  );
  const pressing = own.some((finding) => finding.severity !== 'note');
  const found = (
    <Findings
      findings={own}
      named={false}
      items={view.job.document.items ?? []}
      change={change}
      title={`The ${item.name}’s edge`}
    />
  );
  return (
    <Frame
      foot={
        <div className="flex items-center justify-between gap-6">
          <ItemStrip view={view} chosen={item} />
          <div className="flex shrink-0 gap-6">
            <Figure name="least border">{showLength(item.least_border_mm, unit)}</Figure>
            <Figure name="edge">{showLength(item.edge_length_mm, unit, 0)}</Figure>
            <Figure name="stock a piece">{item.area_cm2.toFixed(1)} cm²</Figure>
          </div>
        </div>
      }
      side={
        <>
          {pressing && found}
          <EdgeControls key={item.number} item={document} view={view} change={change} />
          {!pressing && found}
        </>
      }
    >
      <ItemView item={item} stock={view.plan.stock.colour} withEdge />
    </Frame>
  );
}

function EdgeControls({ item, view, change }: { item: ItemDocument; view: View; change: Changer }) {
  const catalog = useCatalog();
  const edge = item.edge;
  if (!edge || !catalog.data) return null;
  const set = (label: string, changes: Record<string, unknown>) =>
    change({ label, numbers: [item.number], changes });
  const follows = edge.kind === 'follow';
  const colour = edge.colour ?? null;
  return (
    <section aria-label="Edge" className="flex flex-col gap-3.5">
      <h2 className="font-head text-lg font-bold">Border of the {item.name}</h2>
      <Slider
        label="Border"
        value={edge.distance_mm ?? 3}
        max={10}
        hint={`safe from ${catalog.data.least_border_mm} mm, even-looking from ${catalog.data.even_border_mm.toFixed(1)}`}
        onChange={(mm) => set('border', { 'edge.distance_mm': mm })}
      />
      {follows && (
        <Slider
          label="Smoothing"
          value={edge.smooth_mm ?? 2}
          max={10}
          hint="inner corners are rounded to this radius or more"
          onChange={(mm) => set('smoothing', { 'edge.smooth_mm': mm })}
        />
      )}
      {edge.kind === 'rounded' && (
        <Slider
          label="Corner radius"
          value={edge.corner_mm ?? 3}
          max={20}
          onChange={(mm) => set('corner radius', { 'edge.corner_mm': mm })}
        />
      )}
      <Options
        label="Kind of edge"
        columns={2}
        options={catalog.data.edge_kinds.map(({ key, name }) => ({ key, name }))}
        value={edge.kind ?? null}
        onChange={(kind) => set('kind of edge', { 'edge.kind': kind })}
      />
      {follows && (
        <div className="flex flex-col gap-1.5">
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="accent-kingfisher"
              checked={edge.fill_holes ?? true}
              onChange={(event) => set('holes', { 'edge.fill_holes': event.target.checked })}
            />
            Fill holes
          </label>
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="accent-kingfisher"
              checked={edge.join ?? true}
              onChange={(event) => set('joining', { 'edge.join': event.target.checked })}
            />
            Join loose parts
          </label>
        </div>
      )}
      <div className="flex items-center gap-3">
        <span>Colour</span>
        <Button
          aria-pressed={colour === null}
          look={colour === null ? 'act' : 'plain'}
          onClick={() => set('bare border', { 'edge.colour': null })}
        >
          bare
        </Button>
        <label className="flex items-center gap-2">
          printed
          <input
            type="color"
            value={colour ?? '#0f6e84'}
            onChange={(event) => set('border colour', { 'edge.colour': event.target.value })}
          />
        </label>
      </div>
      <Button
        onClick={() =>
          change({
            label: 'the same edge for all',
            numbers: (view.job.document.items ?? []).map((one) => one.number),
            changes: { edge },
          })
        }
      >
        Use this edge for all designs
      </Button>
    </section>
  );
}
