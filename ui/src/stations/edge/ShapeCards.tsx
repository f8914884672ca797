import { showArea, useUnit } from '../../kit/units';
import type { Item, View } from '../../api/view';
import { useShapes } from '../../api/designs';
import { asSentence } from '../../kit/words';

interface Props {
  view: View;
  item: Item;
  set: (label: string, changes: Record<string, unknown>) => void;
}

/** Close, smooth or a whole shape: what each looks like, what it takes of the stock, and which is proposed. */
export function ShapeCards({ view, item, set }: Props) {
  const unit = useUnit((state) => state.unit);
  const shapes = useShapes(view.job.id, item.number, `${view.job.changed_at} ${item.look}`);
  if (!shapes.data) return null;
  const { candidates, manner, why, ease } = shapes.data;
  return (
    <div>
      <p className="mb-1.5 text-sm">
        <b>Proposed: {manner}.</b> {asSentence(why)}{' '}
        <span className="text-soft">Now: {asSentence(ease)}</span>
      </p>
      <div className="grid grid-cols-3 gap-1.5" role="group" aria-label="Shapes of the border">
        {candidates.map((one) => (
          <button
            key={one.name}
            type="button"
            aria-pressed={one.chosen}
            onClick={() => set(one.name.toLowerCase(), one.changes)}
            className={`flex flex-col items-center rounded-[6px] border px-1 py-1.5 text-center leading-tight ${
              one.chosen
                ? 'border-kingfisher bg-paper shadow-[inset_0_0_0_1px_var(--kingfisher)]'
                : 'border-rule bg-tray hover:border-kingfisher'
            }`}
          >
            <svg
              viewBox={`${one.box.x_mm - 1} ${one.box.y_mm - 1} ${one.box.width_mm + 2} ${one.box.height_mm + 2}`}
              className="h-9 w-full"
              aria-hidden
            >
              <path
                d={one.path}
                fillRule="evenodd"
                className="fill-paper stroke-kingfisher"
                strokeWidth="1.2"
                vectorEffect="non-scaling-stroke"
              />
              <path d={item.outline_path} fillRule="evenodd" className="fill-rule" />
            </svg>
            <span className="mt-1 text-sm font-bold">{one.name}</span>
            <span className="figure">{showArea(one.area_cm2, unit)}</span>
            <span className="text-sm text-soft">
              {[one.name.toLowerCase() === manner && 'proposed', fingers(one.fingers)]
                .filter(Boolean)
                .join(', ')}
            </span>
          </button>
        ))}
      </div>
    </div>
  );
}

const fingers = (count: number) => (count === 1 ? '1 finger' : count ? `${count} fingers` : '');
