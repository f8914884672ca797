import type { Item } from '../api/client';
import { type Changer, useRemoveItems } from '../api/hooks';
import { Findings } from '../app/Findings';
import { Button } from '../kit/Button';
import { CountField } from '../kit/CountField';
import { LengthField } from '../kit/LengthField';
import { Empty, Figure, Frame } from './Frame';
import type { StationProps } from './index';
import { ItemStrip, useItem } from './ItemStrip';
import { ItemView } from './ItemView';

/** Is this picture fit to print and cut at this size? */
export function ArtStation({ view, change, add }: StationProps) {
  const item = useItem(view);
  if (!view.plan || !item)
    return (
      <Frame side={<p className="text-soft">Sizes and findings of each picture come here.</p>} foot={null}>
        <Empty view={view} add={add} />
      </Frame>
    );
  const own = view.findings.filter((finding) => finding.item_number === item.number);
  return (
    <Frame
      foot={
        <div className="flex items-center justify-between gap-6">
          <ItemStrip view={view} chosen={item} />
          <div className="flex shrink-0 gap-6">
            <Figure name="resolution">{item.is_vector ? 'any size' : `${Math.round(item.ppi)} ppi`}</Figure>
            <Figure name="placed">
              {item.placed} of {item.wanted}
            </Figure>
          </div>
        </div>
      }
      side={
        <>
          <Sizes key={item.number} jobId={view.job.id} item={item} change={change} />
          <Findings
            findings={own}
            named={false}
            items={view.job.document.items ?? []}
            change={change}
            title={`About the ${item.name}`}
          />
        </>
      }
    >
      <ItemView item={item} stock={view.plan.stock.colour} withEdge={false} />
    </Frame>
  );
}

function Sizes({ jobId, item, change }: { jobId: number; item: Item; change: Changer }) {
  const remove = useRemoveItems(jobId);
  const set = (label: string, changes: Record<string, unknown>) =>
    change({ label, numbers: [item.number], changes });
  return (
    <section aria-label="Size and number" className="flex flex-col gap-3">
      <input
        key={item.name}
        aria-label="Name of the design"
        className="w-full rounded-[6px] border border-transparent bg-transparent font-head text-lg font-bold hover:border-rule"
        defaultValue={item.name}
        onBlur={(event) => {
          const name = event.target.value.trim();
          if (name && name !== item.name) set('name', { name });
        }}
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      />
      <div className="flex gap-4">
        <LengthField
          label="Width"
          value={item.size.width_mm}
          onChange={(mm) => set('width', { width_mm: mm })}
        />
        <LengthField
          label="Height"
          value={item.size.height_mm}
          onChange={(mm) => set('height', { height_mm: mm })}
        />
      </div>
      <p className="text-sm text-soft">Of the inked area; mm, cm, inches and fractions can be typed.</p>
      <div className="flex items-center justify-between">
        <span className="flex items-center gap-2">
          How many
          <CountField
            label="How many"
            value={item.wanted}
            onChange={(quantity) => set('number', { quantity })}
          />
        </span>
        <Button onClick={() => remove.mutate([item.number])}>Remove</Button>
      </div>
    </section>
  );
}
