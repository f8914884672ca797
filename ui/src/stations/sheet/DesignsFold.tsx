import type { View } from '../../api/view';
import { type Changer } from '../../api/changes';
import { useCatalog } from '../../api/jobs';
import { Choose } from '../../kit/Choose';
import { CountField } from '../../kit/CountField';
import { Fold } from '../../kit/Fold';

/** How many of each design, and which turns it may take. */
export function DesignsFold({ view, change }: { view: View; change: Changer }) {
  const catalog = useCatalog().data;
  const items = view.job.document.items ?? [];
  const turns = catalog?.turns ?? [];
  const own = items.filter((item) => item.turn != null).length;
  return (
    <Fold
      title="Designs"
      summary={
        own ? `${own} with a turn rule of ${own === 1 ? 'its' : 'their'} own` : 'numbers and turn rules'
      }
    >
      <ul className="flex flex-col gap-2">
        {items.map((item) => (
          <li key={item.number} className="flex flex-col gap-1 border-b border-rule pb-2 last:border-0">
            <span className="truncate font-bold" title={item.name}>
              {item.name}
            </span>
            <span className="flex items-center justify-between gap-2">
              <CountField
                label={`How many of ${item.name}`}
                value={item.quantity ?? 1}
                least={item.fill_priority == null ? 1 : 0}
                onChange={(quantity) =>
                  change({ label: `number of ${item.name}`, numbers: [item.number], changes: { quantity } })
                }
              />
              <Choose
                bare
                label={`Turns of ${item.name}`}
                name={turns.find((turn) => turn.key === item.turn)?.name ?? 'as the job'}
                choices={[
                  { key: null, name: 'as the job' },
                  ...turns.map((turn) => ({ key: turn.key, name: turn.name })),
                ].map((turn) => ({
                  words: turn.name,
                  chosen: turn.key === (item.turn ?? null),
                  do: () =>
                    change({
                      label: `turns of ${item.name}`,
                      numbers: [item.number],
                      changes: { turn: turn.key },
                    }),
                }))}
              />
            </span>
          </li>
        ))}
      </ul>
    </Fold>
  );
}
