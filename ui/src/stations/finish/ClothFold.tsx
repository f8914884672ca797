import type { Changer } from '../../api/changes';
import type { Pieces } from '../../api/finish';
import { Button } from '../../kit/Button';
import { Fold } from '../../kit/Fold';
import { LengthField } from '../../kit/LengthField';
import { NumberField } from '../../kit/NumberField';
import { Select } from '../../kit/Select';
import { showLength, useUnit } from '../../kit/units';
import { GarmentTable } from './GarmentTable';

type Cloth = NonNullable<Pieces['cloth']>;

/** What it is pressed on, and where on it. */
export function ClothFold({ cloth, change }: { cloth: Cloth; change: Changer }) {
  const { spec } = cloth;
  const unit = useUnit((state) => state.unit);
  const put = (next: Partial<typeof spec>) =>
    change({ label: 'cloth', changes: { 'finish.cloth': { ...spec, ...next } } });
  const fibre = cloth.fibres.find((one) => one.key === spec.fibre)?.name ?? spec.fibre;
  return (
    <Fold title="The cloth" summary={`${spec.dark ? 'dark' : 'pale'} ${fibre}`} open>
      <Select
        label="Fibre"
        options={cloth.fibres}
        value={spec.fibre}
        onChange={(key) => put({ fibre: key as typeof spec.fibre })}
      />
      <label className="flex items-center gap-2 text-sm">
        <input
          type="checkbox"
          checked={spec.dark}
          onChange={(event) => put({ dark: event.target.checked })}
        />
        It is dark
      </label>
      <LengthField
        label="Panel, measured across"
        value={spec.panel_mm ?? 0}
        onChange={(mm) => put({ panel_mm: mm || null })}
      />
      <NumberField
        label="On the fold line: from the art’s left"
        unit="%"
        value={Math.round(spec.centre * 100)}
        onChange={(share) => put({ centre: share / 100 })}
      />
      {cloth.art_width_mm !== null && cloth.numbers.length > 0 && (
        <Button
          className="self-start"
          onClick={() =>
            change({
              label: 'width for the panel',
              numbers: cloth.numbers,
              changes: { width_mm: cloth.art_width_mm, size_over: 'ink' },
            })
          }
        >
          {`Make ${cloth.numbers.length > 1 ? 'all designs' : 'it'} ${showLength(cloth.art_width_mm, unit, 0)} wide`}
        </Button>
      )}
      <GarmentTable numbers={cloth.numbers} change={change} />
      <ul className="flex flex-col gap-1 text-sm">
        {cloth.lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </Fold>
  );
}
