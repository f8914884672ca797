import { useState } from 'react';

import type { Recipe } from '../api/ledger';
import { Button } from '../kit/Button';

const percent = (share: number) => `${Math.round(share * 100)} %`;

const KINDS: readonly (readonly [Recipe['kind'], string])[] = [
  ['cut', 'Cut'],
  ['print', 'Print'],
  ['marks', 'Marks'],
  ['finish', 'Finish'],
];

/** What stands now for each stock and machine, with how often it went well. */
export function RecipeTable({ recipes }: { recipes: Recipe[] }) {
  const there = KINDS.filter(([kind]) => recipes.some((one) => one.kind === kind));
  const [chosen, choose] = useState<Recipe['kind']>('cut');
  const kind = there.some(([key]) => key === chosen) ? chosen : there[0]?.[0];
  return (
    <section aria-label="What works" className="flex flex-col gap-2">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1.5">
        <h2 className="font-head text-lg font-bold">What works</h2>
        <span className="flex gap-1.5" role="group" aria-label="Recipes of">
          {there.map(([key, name]) => (
            <Button
              key={key}
              look={key === kind ? 'act' : 'bare'}
              aria-pressed={key === kind}
              onClick={() => choose(key)}
            >
              {name}
            </Button>
          ))}
        </span>
      </div>
      <div className="overflow-x-auto" tabIndex={0} aria-label="Ways and how often they went well">
        <table className="w-full min-w-[52rem] table-fixed text-left text-sm">
          <thead>
            <tr className="border-b border-rule text-soft">
              <th className="w-[24%] py-1 pr-3 font-normal">Stock and machine</th>
              <th className="w-[20%] py-1 pr-3 font-normal">Used last</th>
              <th className="w-[30%] py-1 pr-3 font-normal">How often it went well, and the likely range</th>
              <th className="py-1 font-normal">From now on</th>
            </tr>
          </thead>
          <tbody>
            {recipes
              .filter((one) => one.kind === kind)
              .map((one) => (
                <tr
                  key={`${one.stock}.${one.machine}.${one.what}.${one.setting}.${one.simulated}`}
                  className="border-b border-rule align-top"
                >
                  <th scope="row" className="py-2 pr-3 font-normal">
                    <b className="block">{one.stock}</b>
                    <span className="text-soft">{[one.machine, one.what].filter(Boolean).join(', ')}</span>
                    {one.simulated && <span className="block text-bracken">simulated</span>}
                  </th>
                  <td className={`py-2 pr-3 ${one.kind === 'cut' ? 'figure' : ''}`}>{one.setting}</td>
                  <td className="py-2 pr-3">
                    <Interval recipe={one} />
                    <span className="block text-soft">{one.words}</span>
                    {one.drifted && (
                      <b className="block text-bracken">it drifts: lately {percent(one.lately)}</b>
                    )}
                  </td>
                  <td className="py-2">
                    {one.next_setting && (
                      <b className={`block ${one.kind === 'cut' ? 'figure' : ''}`}>{one.next_setting}</b>
                    )}
                    <span className="text-soft">
                      {one.why} ({one.source})
                    </span>
                  </td>
                </tr>
              ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

function Interval({ recipe }: { recipe: Recipe }) {
  const label = `${percent(recipe.share)}, between ${percent(recipe.low)} and ${percent(recipe.high)}`;
  return (
    <span className="flex items-center gap-2">
      <svg
        viewBox="0 0 100 10"
        className="h-2.5 w-40 shrink-0"
        role="img"
        aria-label={label}
        preserveAspectRatio="none"
      >
        <rect width="100" height="10" rx="5" fill="var(--tray)" />
        <rect
          x={recipe.low * 100}
          width={Math.max(1, (recipe.high - recipe.low) * 100)}
          height="10"
          rx="5"
          fill="var(--kingfisher)"
          fillOpacity="0.35"
        />
        <rect x={recipe.share * 100 - 1} width="2" height="10" fill="var(--kingfisher)" />
      </svg>
      <span className="figure">{percent(recipe.share)}</span>
    </span>
  );
}
