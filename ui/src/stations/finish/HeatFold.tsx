import type { Changer } from '../../api/changes';
import type { Schemas } from '../../api/client';
import { useCatalog } from '../../api/jobs';
import { Fold } from '../../kit/Fold';
import { LengthField } from '../../kit/LengthField';
import { Options } from '../../kit/Options';

type Heat = Schemas['HeatSpec'];

/** What presses: a press with its plate, or an iron with its sole. */
export function HeatFold({ heat, change }: { heat: Heat; change: Changer }) {
  const start = useCatalog().data?.start;
  const put = (next: Heat | null) => change({ label: 'press', changes: { 'finish.heat': next } });
  if (!start) return null;
  return (
    <Fold title="What presses" summary={heat.iron ? 'a hand iron' : 'a press'}>
      <Options
        label="What presses"
        columns={2}
        value={heat.iron ? 'iron' : 'press'}
        options={[
          { key: 'press', name: 'A press' },
          { key: 'iron', name: 'A hand iron' },
        ]}
        onChange={(key) => put(key === 'iron' ? start.iron : start.press)}
      />
      <div className="flex flex-wrap gap-4">
        <LengthField
          label={heat.iron ? 'Sole, wide' : 'Plate, wide'}
          value={heat.width_mm}
          onChange={(mm) => put({ ...heat, width_mm: mm })}
        />
        <LengthField
          label={heat.iron ? 'Sole, high' : 'Plate, high'}
          value={heat.height_mm}
          onChange={(mm) => put({ ...heat, height_mm: mm })}
        />
      </div>
    </Fold>
  );
}
