import type { Changer } from '../../api/changes';
import { useCatalog, useRange } from '../../api/jobs';
import type { View } from '../../api/view';
import { CountField } from '../../kit/CountField';
import { Fold } from '../../kit/Fold';
import { LengthField } from '../../kit/LengthField';

interface Props {
  view: View;
  plan: NonNullable<View['plan']>;
  change: Changer;
}

/** Bridges that hold pieces that are cut through, so that they stay put until they are taken off. */
export function TabsFold({ view, plan, change }: Props) {
  const start = useCatalog().data?.start.tabs;
  const { max } = useRange('tabs.count');
  const through = plan.items.filter((item) => item.cut === 'through');
  const documents = view.job.document.items ?? [];
  if (!through.length) return null;
  const held = documents.filter((item) => item.tabs && through.some((one) => one.number === item.number));
  return (
    <Fold title="Tabs" summary={held.length ? `${held.length} of ${through.length} designs` : 'none'}>
      <p className="text-sm text-soft">
        Small bridges keep a piece that is cut through where it lies; snip them after.
      </p>
      <ul className="flex flex-col gap-2">
        {documents
          .filter((item) => through.some((one) => one.number === item.number))
          .map((item) => {
            const name = item.name ?? 'design';
            const set = (count: number, width_mm: number) =>
              change({
                label: count ? `${count} tabs for ${name}` : `no tabs for ${name}`,
                numbers: [item.number],
                changes: { tabs: count ? { count, width_mm } : null },
              });
            const width = item.tabs?.width_mm ?? start?.width_mm ?? 0;
            return (
              <li key={item.number} className="flex flex-wrap items-end justify-between gap-2">
                <span className="text-sm">{name}</span>
                <span className="flex items-end gap-2">
                  <CountField
                    label={`Tabs of ${name}`}
                    value={item.tabs?.count ?? 0}
                    least={0}
                    most={max}
                    onChange={(count) => set(count, width)}
                  />
                  {item.tabs && (
                    <LengthField
                      label={`Width of a tab of ${name}`}
                      bare
                      value={width}
                      onChange={(mm) => set(item.tabs?.count ?? 1, mm)}
                    />
                  )}
                </span>
              </li>
            );
          })}
      </ul>
    </Fold>
  );
}
