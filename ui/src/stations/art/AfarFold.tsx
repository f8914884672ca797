/** From how far a design's letters are read, and the size at which they would be from where they have to. */
import { useState } from 'react';

import { useFromAfar } from '../../api/designs';
import { Button } from '../../kit/Button';
import { Fold } from '../../kit/Fold';
import { NumberField } from '../../kit/NumberField';
import { showLength, showSize, useUnit } from '../../kit/units';

interface Props {
  jobId: number;
  number: number;
  /** What it is worked out from: where that changes, it is asked anew. */
  from: string;
  /** How far away it was said to be read from, m; 0 where that was not said. */
  start: number;
  set: (label: string, changes: Record<string, unknown>) => void;
}

export function AfarFold({ jobId, number, from, start, set }: Props) {
  const unit = useUnit((state) => state.unit);
  const [metres, setMetres] = useState(start);
  const { data } = useFromAfar(jobId, number, from, metres);
  const high = data ? showLength(data.letters_mm, unit, 0) : '';
  return (
    <Fold title="Read from afar" summary={metres ? `${metres} m` : 'a window, a car'}>
      <NumberField label="Read from" unit="m" value={metres} least={0} most={200} onChange={setMetres} />
      {data && (
        <>
          <p className="text-sm">
            {data.as_whole
              ? `No letters stand apart in it. One line as high as the drawing, ${high}, is read at a glance from `
              : `Its lowest line of letters is ${high} high, and read at a glance from `}
            {data.from_m < 10 ? data.from_m.toFixed(1) : Math.round(data.from_m)} m.
          </p>
          <Button
            look="act"
            className="self-start"
            onClick={() =>
              set('size to be read from afar', {
                longest_mm: Math.max(data.wanted.width_mm, data.wanted.height_mm),
                size_over: 'ink',
              })
            }
          >
            {`Make it ${showSize(data.wanted.width_mm, data.wanted.height_mm, unit)}`}
          </Button>
        </>
      )}
    </Fold>
  );
}
