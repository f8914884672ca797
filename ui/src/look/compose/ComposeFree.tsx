import type { Composition } from '../../api/compose';
import { useCatalog } from '../../api/jobs';
import { Button } from '../../kit/Button';
import { LengthField } from '../../kit/LengthField';
import { Colour, heightOf, Part, type PartProps, swap } from './Part';

/** Boxes that are kept free for handwriting. */
export function ComposeFree({ composition, set }: PartProps) {
  const { free, base } = composition;
  const change = (index: number, part: Partial<Composition['free'][number]>) =>
    set({ free: swap(free, index, part) });
  const start = useCatalog().data?.start;
  if (!start) return null;
  const add = () =>
    set({
      free: [
        ...free,
        {
          ...start.free_box,
          x_mm: base.width_mm * start.free_box.x_mm,
          y_mm: heightOf(base) * start.free_box.y_mm,
          width_mm: base.width_mm * start.free_box.width_mm,
          height_mm: heightOf(base) * start.free_box.height_mm,
        },
      ],
    });
  return (
    <Part title="Room for handwriting" action={<Button onClick={add}>Add a box</Button>}>
      {free.map((box, index) => (
        <div key={index} className="flex flex-wrap items-end gap-2 rounded-[6px] border border-rule p-2">
          {(
            [
              ['x_mm', 'From the left'],
              ['y_mm', 'From the top'],
              ['width_mm', 'Width'],
              ['height_mm', 'Height'],
            ] as const
          ).map(([field, label]) => (
            <LengthField
              key={field}
              label={label}
              value={box[field]}
              onChange={(mm) => change(index, { [field]: mm })}
            />
          ))}
          <Colour label="Colour" value={box.colour} onChange={(colour) => change(index, { colour })} />
          <Button look="bare" onClick={() => set({ free: free.filter((_, n) => n !== index) })}>
            Remove
          </Button>
        </div>
      ))}
    </Part>
  );
}
