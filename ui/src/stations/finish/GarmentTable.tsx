/** Widths by what is worn, each taken with one press; the table is the maker's own. */
import { useState } from 'react';

import type { Changer } from '../../api/changes';
import { useGarments, useKeepGarments } from '../../api/garments';
import { Button } from '../../kit/Button';
import { LengthField } from '../../kit/LengthField';
import { showLength, useUnit } from '../../kit/units';
import { WordsField } from '../../kit/WordsField';
import { asSentence } from '../../kit/words';

export function GarmentTable({ numbers, change }: { numbers: number[]; change: Changer }) {
  const unit = useUnit((state) => state.unit);
  const garments = useGarments().data ?? [];
  const keep = useKeepGarments();
  const [edited, setEdited] = useState(false);
  const [name, setName] = useState('');
  const [width, setWidth] = useState(200);
  return (
    <section aria-label="Widths by what is worn" className="flex flex-col gap-1 text-sm">
      <p className="flex items-baseline justify-between">
        How wide on …
        <Button look="bare" aria-pressed={edited} onClick={() => setEdited(!edited)}>
          {edited ? 'Done' : 'Change the table'}
        </Button>
      </p>
      <ul className="flex flex-col gap-1">
        {garments.map((one) => (
          <li key={one.name} className="flex items-center justify-between gap-2">
            {edited ? (
              <>
                <LengthField
                  label={one.name}
                  value={one.width_mm}
                  onChange={(mm) =>
                    keep.mutate(garments.map((it) => (it.name === one.name ? { ...it, width_mm: mm } : it)))
                  }
                />
                <Button
                  look="bare"
                  onClick={() => keep.mutate(garments.filter((it) => it.name !== one.name))}
                >{`Remove ${one.name}`}</Button>
              </>
            ) : (
              <Button
                className="w-full justify-between"
                disabled={numbers.length === 0}
                onClick={() =>
                  change({
                    label: `width for ${one.name}`,
                    numbers,
                    changes: { width_mm: one.width_mm, size_over: 'ink' },
                  })
                }
              >
                {one.name}: {showLength(one.width_mm, unit, 0)}
              </Button>
            )}
          </li>
        ))}
      </ul>
      {edited && (
        <div className="flex flex-wrap items-end gap-2">
          <WordsField label="Another size" hint="a scout shirt" most={60} value={name} onChange={setName} />
          <LengthField label="Wide" value={width} onChange={setWidth} />
          <Button
            disabled={!name.trim()}
            onClick={() =>
              keep.mutate([...garments, { name: name.trim(), width_mm: width }], {
                onSuccess: () => setName(''),
              })
            }
          >
            Add it
          </Button>
        </div>
      )}
      {keep.error && (
        <p role="alert" className="text-rowan">
          {asSentence(keep.error.message)}
        </p>
      )}
    </section>
  );
}
