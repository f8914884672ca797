import type { Changer } from '../../api/changes';
import type { Pieces } from '../../api/finish';
import { useCatalog } from '../../api/jobs';
import { Button } from '../../kit/Button';
import { Fold } from '../../kit/Fold';
import { LengthField } from '../../kit/LengthField';

type Blank = NonNullable<Pieces['blank']>;

/** The blank that the print has to cover, and how many lie on the plate. */
export function BlankFold({ blank, change }: { blank: Blank; change: Changer }) {
  const start = useCatalog().data?.start;
  const { spec } = blank;
  const put = (next: Blank['spec']) => change({ label: 'blank', changes: { 'finish.blank': next } });
  if (!spec)
    return (
      <Fold title="The blank" summary="not measured" open>
        <p className="text-sm">
          Once it is measured, Vamper checks whether the print covers it and how many fit under the press.
        </p>
        {start && <Button onClick={() => put(start.blank)}>Measure the blank</Button>}
      </Fold>
    );
  return (
    <Fold title="The blank" summary="measured" open>
      <div className="flex flex-wrap gap-4">
        <LengthField label="Wide" value={spec.width_mm} onChange={(mm) => put({ ...spec, width_mm: mm })} />
        <LengthField label="High" value={spec.height_mm} onChange={(mm) => put({ ...spec, height_mm: mm })} />
        <LengthField
          label="Print past it"
          value={spec.past_mm}
          onChange={(mm) => put({ ...spec, past_mm: mm })}
        />
      </div>
      <ul className="flex flex-col gap-1 text-sm">
        {blank.lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      <div className="flex flex-wrap gap-2">
        {blank.per_plate !== null && blank.per_plate > 0 && (
          <Button
            onClick={() => change({ label: 'plate', changes: { 'finish.plate': blank.per_plate } })}
          >{`Press ${blank.per_plate} at once`}</Button>
        )}
        <Button look="bare" onClick={() => put(null)}>
          Forget the blank
        </Button>
      </div>
    </Fold>
  );
}
