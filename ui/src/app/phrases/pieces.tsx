/** How many of each design. */
import { CountField } from '../../kit/CountField';
import type { PanelProps } from './phrase';

export default function Pieces({ view, change }: PanelProps) {
  const items = view.job.document.items ?? [];
  if (items.length === 0) return <p>Drop pictures anywhere on this page, or press “Add art”.</p>;
  return (
    <ul className="flex flex-col gap-2">
      {items.map((item) => (
        <li key={item.number} className="flex items-center justify-between gap-3">
          <span className="truncate">{item.name}</span>
          <CountField
            label={`How many of ${item.name}`}
            value={item.quantity}
            onChange={(quantity) =>
              change({ label: `number of ${item.name}`, numbers: [item.number], changes: { quantity } })
            }
          />
        </li>
      ))}
    </ul>
  );
}
