/** The place on a pane, a wall or a vehicle, as it was measured, and from how far it is read. */
import type { Changer } from '../../api/changes';
import type { Schemas } from '../../api/client';
import { Fold } from '../../kit/Fold';
import { LengthField } from '../../kit/LengthField';
import { NumberField } from '../../kit/NumberField';
import { showSize, useUnit } from '../../kit/units';

type Place = Schemas['PlaceSpec'];
interface Props {
  place: Place | null;
  letters: string;
  change: Changer;
}

const START: Place = { width_mm: 600, height_mm: 300, distance_m: 0 };

export function PlaceFold({ place, letters, change }: Props) {
  const unit = useUnit((state) => state.unit);
  const put = (next: Partial<Place>) =>
    change({ label: 'place', changes: { 'finish.place': { ...(place ?? START), ...next } } });
  return (
    <Fold
      title="Its place"
      summary={place ? showSize(place.width_mm, place.height_mm, unit) : 'not measured yet'}
      open={place !== null}
    >
      <p className="text-sm text-soft">Measure the free place first; what does not fit is told.</p>
      <div className="flex flex-wrap gap-4">
        <LengthField label="Wide" value={place?.width_mm ?? 0} onChange={(mm) => put({ width_mm: mm })} />
        <LengthField label="High" value={place?.height_mm ?? 0} onChange={(mm) => put({ height_mm: mm })} />
        <NumberField
          label="Read from (0: no matter)"
          unit="m"
          value={place?.distance_m ?? 0}
          onChange={(distance_m) => put({ distance_m })}
        />
      </div>
      {letters && <p className="text-sm">{letters}</p>}
    </Fold>
  );
}
