import { pictureUrl, type Schemas } from '../../api/client';
import type { Composition } from '../../api/compose';
import type { View } from '../../api/view';
import { Button } from '../../kit/Button';
import { LengthField } from '../../kit/LengthField';
import { heightOf, Part, type PartProps, swap } from './Part';
import { PointAt } from './PointAt';

const CENTRINGS: [Schemas['Centring'], string][] = [
  ['box', 'by its box'],
  ['eye', 'by eye'],
  ['part', 'by a part'],
];
const MIDDLE = [0.25, 0.25, 0.75, 0.75];

/** Pictures of the job that go on the piece. */
export function ComposeArts({ view, composition, set }: PartProps & { view: View }) {
  const items = (view.plan?.items ?? []).filter((item) => !item.composed);
  const { arts, base } = composition;
  const change = (index: number, part: Partial<Composition['arts'][number]>) =>
    set({ arts: swap(arts, index, part) });
  const add = (number: number) => {
    const design = view.job.document.items?.find((one) => one.number === number);
    if (!design) return;
    const { page, lift_de, crop } = design.prepare;
    set({
      arts: [
        ...arts,
        {
          art: design.art,
          page,
          lift_de: lift_de ?? null,
          crop: crop ?? null,
          width_mm: base.width_mm / 4,
          x_mm: base.width_mm / 5,
          y_mm: heightOf(base) / 2,
          centring: 'box',
          part: null,
          cover: false,
        },
      ],
    });
  };
  return (
    <Part title="Pictures">
      {items.length === 0 && (
        <p className="text-sm text-soft">Pictures from this job can go on it; there are none yet.</p>
      )}
      <div className="flex flex-wrap gap-1.5">
        {items.map((item) => (
          <button
            key={item.number}
            type="button"
            aria-label={`Put ${item.name} on it`}
            title={`Put ${item.name} on it`}
            className="h-11 w-11 rounded-[6px] border border-rule p-1 hover:border-kingfisher"
            onClick={() => add(item.number)}
          >
            <img src={pictureUrl(item, 160)} alt="" className="h-full w-full object-contain" />
          </button>
        ))}
      </div>
      {arts.map((placed, index) => (
        <div key={index} className="flex flex-wrap items-end gap-2 rounded-[6px] border border-rule p-2">
          {!placed.cover && (
            <>
              <LengthField
                label="Width"
                value={placed.width_mm}
                onChange={(mm) => mm > 0 && change(index, { width_mm: mm })}
              />
              <LengthField
                label="Across"
                value={placed.x_mm}
                onChange={(mm) => change(index, { x_mm: mm })}
              />
              <LengthField label="Down" value={placed.y_mm} onChange={(mm) => change(index, { y_mm: mm })} />
              <div className="flex flex-wrap gap-1" role="group" aria-label="Centred by">
                {CENTRINGS.map(([centring, name]) => (
                  <Button
                    key={centring}
                    aria-pressed={placed.centring === centring}
                    look={placed.centring === centring ? 'act' : 'plain'}
                    onClick={() =>
                      centring === 'part'
                        ? change(index, { centring, part: placed.part ?? MIDDLE })
                        : change(index, { centring })
                    }
                  >
                    {name}
                  </Button>
                ))}
              </div>
              {placed.centring === 'part' && (
                <PointAt placed={placed} onChange={(part) => change(index, { part })} />
              )}
            </>
          )}
          {base.shape !== 'none' && (
            <Button
              aria-pressed={placed.cover}
              look={placed.cover ? 'act' : 'plain'}
              onClick={() => change(index, { cover: !placed.cover })}
            >
              cover it all
            </Button>
          )}
          <Button look="bare" onClick={() => set({ arts: arts.filter((_, n) => n !== index) })}>
            Remove
          </Button>
        </div>
      ))}
    </Part>
  );
}
