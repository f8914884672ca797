/** The place on a pane, a wall or a vehicle, as it was measured, and from how far it is read. */
import { useState } from 'react';

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

export function PlaceFold({ place, letters, change }: Props) {
  const unit = useUnit((state) => state.unit);
  const [typed, setTyped] = useState<Partial<Place>>(place ?? {});
  // A place is kept once both of its sides were measured: nothing is told of a side that nobody knows.
  const put = (next: Partial<Place>) => {
    const now = { ...typed, ...next };
    setTyped(now);
    if (now.width_mm && now.height_mm) change({ label: 'place', changes: { 'finish.place': now } });
  };
  return (
    <Fold
      title="Its place"
      summary={place ? showSize(place.width_mm, place.height_mm, unit) : 'not measured yet'}
      open={place !== null}
    >
      <p className="text-sm text-soft">Measure the free place first; what does not fit is told.</p>
      <div className="flex flex-wrap gap-4">
        <LengthField label="Wide" value={typed.width_mm ?? 0} onChange={(mm) => put({ width_mm: mm })} />
        <LengthField label="High" value={typed.height_mm ?? 0} onChange={(mm) => put({ height_mm: mm })} />
        <NumberField
          label="Read from (0: no matter)"
          unit="m"
          value={typed.distance_m ?? 0}
          onChange={(distance_m) => put({ distance_m })}
        />
      </div>
      {letters && <p className="text-sm">{letters}</p>}
    </Fold>
  );
}
