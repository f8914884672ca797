/** The border of all designs at once. */
import { useCatalog } from '../../api/jobs';
import { Options } from '../../kit/Options';
import { Slider } from '../../kit/Slider';
import { showLength, useUnit } from '../../kit/units';
import type { PanelProps } from './phrase';

export default function Edges({ view, change }: PanelProps) {
  const catalog = useCatalog();
  const unit = useUnit((state) => state.unit);
  const items = view.job.document.items ?? [];
  const numbers = items.map((item) => item.number);
  const first = items[0]?.edge;
  if (!first || !catalog.data) return <p>Add art first; its border is set here.</p>;
  const same = items.every((item) => item.edge?.kind === first.kind);
  return (
    <>
      <p className="text-sm text-soft">This is for all designs at once; change single ones under Edge.</p>
      <Slider
        label="Border"
        value={first.distance_mm}
        max={catalog.data.edge_kinds.find((kind) => kind.key === first.kind)?.most_mm ?? 0}
        {...(view.plan
          ? {
              hint: `safe from ${showLength(view.plan.miss_mm, unit)}, even-looking from ${showLength(view.plan.even_border_mm, unit)}`,
            }
          : {})}
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
