import type { Recipe } from '../api/ledger';

const percent = (share: number) => `${Math.round(share * 100)} %`;

/** What stands now for each stock, machine, blade and cut, with how often it went well. */
export function RecipeTable({ recipes }: { recipes: Recipe[] }) {
  return (
    <section aria-label="What works" className="flex flex-col gap-2">
      <h2 className="font-head text-lg font-bold">What works</h2>
      <div className="overflow-x-auto" tabIndex={0} aria-label="Settings and how often they went well">
        <table className="w-full min-w-[52rem] text-left text-sm">
          <thead>
            <tr className="border-b border-rule text-soft">
              <th className="py-1 pr-3 font-normal">Stock and machine</th>
              <th className="py-1 pr-3 font-normal">Used last</th>
              <th className="py-1 pr-3 font-normal">Went well, with the span of 90 in 100</th>
              <th className="py-1 font-normal">From now on</th>
            </tr>
          </thead>
          <tbody>
            {recipes.map((one) => (
              <tr
                key={`${one.stock}.${one.cutter}.${one.cut}.${one.blade}.${one.simulated}`}
                className="border-b border-rule align-top"
              >
                <th scope="row" className="py-2 pr-3 font-normal">
                  <b className="block">{one.stock}</b>
                  <span className="text-soft">
                    {one.cutter}, {one.blade}° blade
                  </span>
                  {one.simulated && <span className="block text-bracken">simulated</span>}
                </th>
                <td className="figure py-2 pr-3">{one.setting}</td>
                <td className="py-2 pr-3">
                  <Interval recipe={one} />
                  <span className="block text-soft">{one.words}</span>
                  {one.drifted && (
                    <b className="block text-bracken">it drifts: lately {percent(one.lately)}</b>
                  )}
                </td>
                <td className="py-2">
                  {one.next_setting && <b className="figure block">{one.next_setting}</b>}
                  <span className="text-soft">{one.why}</span>
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
