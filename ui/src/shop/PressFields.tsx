/** What a stock that is pressed on cloth holds on, as its package says. */
import type { Schemas } from '../api/client';
import { CountField } from '../kit/CountField';
import { Tick } from '../kit/Tick';

type Film = Schemas['PressFilm'];
type Fibre = Schemas['Fibre'];
const FIBRES: readonly (readonly [Fibre, string])[] = [
  ['cotton', 'cotton'],
  ['blend', 'blends'],
  ['polyester', 'polyester'],
];
const NOTHING: Film = {
  fibres: [],
  not_for: [],
  pale_only: false,
  pale: false,
  cold_peel: false,
  presses: 1,
};

export function PressFields({ film, set }: { film: Film | null; set: (film: Film) => void }) {
  const now = film ?? NOTHING;
  const put = (next: Partial<Film>) => set({ ...now, ...next });
  const without = (list: readonly Fibre[] | undefined, one: Fibre) => (list ?? []).filter((it) => it !== one);
  return (
    <fieldset className="flex flex-col gap-2">
      <legend className="font-bold">Pressed on cloth, as its package says</legend>
      <div className="grid grid-cols-3 gap-1.5">
        {FIBRES.map(([fibre, words]) => (
          <Tick
            key={fibre}
            on={now.fibres?.includes(fibre) ?? false}
            label={`holds on ${words}`}
            set={(on) =>
              put({
                fibres: on ? [...without(now.fibres, fibre), fibre] : without(now.fibres, fibre),
                not_for: without(now.not_for, fibre),
              })
            }
          />
        ))}
        {FIBRES.map(([fibre, words]) => (
          <Tick
            key={fibre}
            on={now.not_for?.includes(fibre) ?? false}
            label={`not for ${words}`}
            set={(on) =>
              put({
                not_for: on ? [...without(now.not_for, fibre), fibre] : without(now.not_for, fibre),
                fibres: without(now.fibres, fibre),
              })
            }
          />
        ))}
        <Tick
          on={now.pale_only ?? false}
          label="shows on pale cloth only"
          set={(pale_only) => put({ pale_only })}
        />
        <Tick on={now.pale ?? false} label="pale itself: dye may wander in" set={(pale) => put({ pale })} />
        <Tick on={now.cold_peel ?? false} label="peeled cold" set={(cold_peel) => put({ cold_peel })} />
      </div>
      <span className="flex items-center gap-2 text-sm">
        Presses
        <CountField
          label="Presses"
          value={now.presses ?? 1}
          most={2}
          onChange={(presses) => put({ presses })}
        />
      </span>
    </fieldset>
  );
}
