import { useCatalog } from '../../api/jobs';
import { Button } from '../../kit/Button';
import { Fold } from '../../kit/Fold';
import { LengthField } from '../../kit/LengthField';
import { Options } from '../../kit/Options';
import { showLength, useUnit } from '../../kit/units';
import type { StationProps } from '../../look/station';

const FIELDS = [
  ['inset_mm', 'From the paper’s edge', 'to the mark’s outer rim; 4 mm at least'],
  ['size_mm', 'Size of a mark', 'an arm’s length, or the mark’s width'],
  ['stroke_mm', 'Stroke', 'a thicker one reads better'],
  ['clear_mm', 'Kept clear', 'nothing prints this near to a mark'],
] as const;

/** The family of marks and how they are drawn. */
export function MarkShape({ view, change, open }: Pick<StationProps, 'view' | 'change'> & { open: boolean }) {
  const catalog = useCatalog();
  const unit = useUnit((state) => state.unit);
  const marks = view.job.document.marks;
  const family = marks?.family ?? 'corner';
  const name = catalog.data?.mark_families.find((one) => one.key === family)?.name ?? family;
  return (
    <Fold title="The marks" summary={`${name}, ${showLength(marks.inset_mm, unit)} inside`} open={open}>
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
        FIELDS.filter(([field]) => family !== 'frame' || field !== 'size_mm').map(([field, label, hint]) => (
          <LengthField
            key={field}
            label={label}
            hint={hint}
            value={marks[field]}
            onChange={(mm) => change({ label: label.toLowerCase(), changes: { [`marks.${field}`]: mm } })}
          />
        ))}
    </Fold>
  );
}
