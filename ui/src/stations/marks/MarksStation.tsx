import { useCatalog } from '../../api/jobs';
import { Findings } from '../../look/Findings';
import { Button } from '../../kit/Button';
import { LengthField } from '../../kit/LengthField';
import { Options } from '../../kit/Options';
import { showLength, useUnit } from '../../kit/units';
import { useSheet } from '../../look/SheetRow';
import { SheetView } from '../../look/SheetView';
import { GrantedSizes } from './GrantedSizes';
import { Empty, Figure, Frame } from '../../look/Frame';
import type { StationProps } from '../../look/station';

const FIELDS = [
  ['inset_mm', 'From the paper’s edge', 'to the mark’s outer rim; 4 mm at least'],
  ['size_mm', 'Size of a mark', 'an arm’s length, or the mark’s width'],
  ['stroke_mm', 'Stroke', 'a thicker one reads better'],
  ['clear_mm', 'Kept clear', 'nothing prints this near to a mark'],
] as const;

/** What the cutter's sensor looks for, and what bounds the live area. */
export function MarksStation({ view, change, add }: StationProps) {
  const plan = view.plan;
  const unit = useUnit((state) => state.unit);
  const catalog = useCatalog();
  const marks = view.job.document.marks;
  const family = marks?.family ?? 'corner';
  return (
    <Frame
      foot={
        plan && (
          <div className="flex gap-8">
            <Figure name="live area">
              {showLength(plan.live_size.width_mm, unit)} × {showLength(plan.live_size.height_mm, unit)}
            </Figure>
            <Figure name="sheet">
              {showLength(plan.width_mm, unit)} × {showLength(plan.height_mm, unit)}
            </Figure>
          </div>
        )
      }
      side={
        <>
          <section aria-label="Marks" className="flex flex-col gap-3">
            <h2 className="font-head text-base font-bold">Marks</h2>
            <Options
              label="Family of marks"
              options={catalog.data?.mark_families ?? []}
              value={family}
              onChange={(key) => change({ label: `marks: ${key}`, changes: { 'marks.family': key } })}
            />
            {family !== 'none' && family !== 'frame' && (
              <div className="flex items-center gap-2">
                {[4, 3].map((count) => (
                  <Button
                    key={count}
                    aria-pressed={marks.count === count}
                    look={marks.count === count ? 'act' : 'plain'}
                    onClick={() => change({ label: `${count} marks`, changes: { 'marks.count': count } })}
                  >
                    {count} marks
                  </Button>
                ))}
              </div>
            )}
            {family !== 'none' &&
              FIELDS.filter(([field]) => family !== 'frame' || field !== 'size_mm').map(
                ([field, name, hint]) => (
                  <LengthField
                    key={field}
                    label={name}
                    hint={hint}
                    value={marks[field]}
                    onChange={(mm) =>
                      change({ label: name.toLowerCase(), changes: { [`marks.${field}`]: mm } })
                    }
                  />
                ),
              )}
          </section>
          {plan && plan.granted.length > 0 && <GrantedSizes view={view} plan={plan} />}
          {plan && (
            <section aria-label="What bounds the live area">
              <h2 className="font-head text-base font-bold">What bounds the live area</h2>
              <ul className="mt-1 flex list-disc flex-col gap-1.5 pl-5 text-sm">
                {plan.bounds.map((bound) => (
                  <li key={bound.name}>{bound.reason}</li>
                ))}
              </ul>
            </section>
          )}
          <Findings
            findings={view.findings.filter((finding) => finding.station === 'marks')}
            items={view.job.document.items ?? []}
            jobId={view.job.id}
            change={change}
          />
        </>
      }
    >
      {plan ? <Marked jobId={view.job.id} plan={plan} /> : <Empty view={view} add={add} />}
    </Frame>
  );
}

function Marked({ jobId, plan }: { jobId: number; plan: NonNullable<StationProps['view']['plan']> }) {
  const sheet = useSheet(plan);
  return (
    <SheetView jobId={jobId} plan={plan} sheet={sheet} mode="marks">
      <g fill="none" stroke="var(--d-look)" strokeWidth="1" strokeDasharray="5 4">
        {plan.bounds.map((bound) => (
          <path key={bound.name} d={bound.path} vectorEffect="non-scaling-stroke" />
        ))}
      </g>
    </SheetView>
  );
}
