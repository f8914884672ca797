import type { ItemDocument } from '../../api/client';
import type { Item } from '../../api/view';
import { useRemoveItems } from '../../api/designs';
import { Button } from '../../kit/Button';
import { CountField } from '../../kit/CountField';
import { LengthField } from '../../kit/LengthField';

interface Props {
  jobId: number;
  item: Item;
  document: ItemDocument;
  numbers: readonly number[];
  /** For all that are picked, and for the one in sight. */
  set: (label: string, changes: Record<string, unknown>) => void;
  setThis: (label: string, changes: Record<string, unknown>) => void;
}

const SIDES = [
  ['width_mm', 'Width'],
  ['height_mm', 'Height'],
  ['longest_mm', 'Longest side'],
] as const;

/** The name, the size by any side, over the drawing or over its border, and how many. */
export function ArtSize({ jobId, item, document, numbers, set, setThis }: Props) {
  const remove = useRemoveItems(jobId);
  const over = document.size_over;
  const box = over === 'border' ? item.edge_size : item.size;
  const sides = {
    width_mm: box.width_mm,
    height_mm: box.height_mm,
    longest_mm: Math.max(box.width_mm, box.height_mm),
  };
  const [wanted] = SIDES.find(([side]) => document[side] != null) ?? SIDES[0];
  return (
    <section aria-label="Size and number" className="flex flex-col gap-3">
      {numbers.length > 1 ? (
        <h2 className="font-head text-lg font-bold">{numbers.length} designs at once</h2>
      ) : (
        <input
          key={item.name}
          aria-label="Name of the design"
          className="w-full rounded-[6px] border border-transparent bg-transparent font-head text-lg font-bold hover:border-rule"
          defaultValue={item.name}
          onBlur={(event) => {
            const name = event.target.value.trim();
            if (name && name !== item.name) setThis('name', { name });
          }}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        />
      )}
      <div className="grid grid-cols-[repeat(auto-fit,minmax(7rem,1fr))] gap-x-3 gap-y-2">
        {SIDES.map(([side, name]) => (
          <LengthField
            key={side}
            label={side === wanted ? `${name}, set` : name}
            value={sides[side]}
            onChange={(mm) => set(name.toLowerCase(), { [side]: mm })}
          />
        ))}
      </div>
      <div className="flex flex-wrap items-center gap-2">
        <span className="text-sm">Size of</span>
        {(
          [
            ['ink', 'the drawing'],
            ['border', 'its border'],
          ] as const
        ).map(([key, words]) => (
          <Button
            key={key}
            aria-pressed={over === key}
            look={over === key ? 'act' : 'plain'}
            onClick={() => set(`size over ${words}`, { size_over: key })}
          >
            {words}
          </Button>
        ))}
      </div>
      <p className="text-sm text-soft">mm, cm, inches and fractions (2 1/2&quot;) can be typed.</p>
      <div className="flex items-center justify-between">
        <span className="flex items-center gap-2">
          How many
          <CountField
            label="How many"
            value={item.wanted}
            onChange={(quantity) => set('number', { quantity })}
          />
        </span>
        <Button onClick={() => remove.mutate([...numbers])}>
          {numbers.length > 1 ? `Remove ${numbers.length}` : 'Remove'}
        </Button>
      </div>
    </section>
  );
}
