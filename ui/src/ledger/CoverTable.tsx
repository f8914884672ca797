/** Coats and laminates by name, side by side: what each took, and whether it held. */
import { useCovers } from '../api/finished';

const WHEN: Record<string, string> = {
  'coat-before': 'coat before the cut',
  'coat-after': 'coat after the cut',
  laminate: 'laminate',
};
const figure = (value: number | null, unit: string) =>
  value === null ? '–' : `${Number(value.toFixed(1))}${unit}`;

export function CoverTable() {
  const covers = useCovers().data ?? [];
  if (covers.length === 0) return null;
  return (
    <section aria-label="Coats and laminates" className="flex flex-col gap-2">
      <h2 className="font-head text-lg font-bold">Coats and laminates, side by side</h2>
      <div className="overflow-x-auto" tabIndex={0} aria-label="Coats and laminates, side by side">
        <table className="w-full text-sm">
          <thead>
            <tr className="text-left text-soft">
              {[
                'Product',
                'Face',
                'On',
                'Laid as',
                'Runs',
                'Coats',
                'Between',
                'Hardens',
                'Good',
                'Held later',
              ].map((head) => (
                <th key={head} scope="col" className="py-1 pr-3 font-normal">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {covers.map((one) => (
              <tr
                key={`${one.product} ${one.look} ${one.stock_name} ${one.when}`}
                className="border-t border-rule align-baseline"
              >
                <th scope="row" className="py-1.5 pr-3 text-left font-bold">
                  {one.product || 'no name yet'}
                </th>
                <td className="pr-3">{one.look ?? '–'}</td>
                <td className="pr-3">{one.stock_name}</td>
                <td className="pr-3">{WHEN[one.when] ?? one.when}</td>
                <td className="figure pr-3">{one.runs}</td>
                <td className="figure pr-3">{figure(one.coats, '')}</td>
                <td className="figure pr-3">{figure(one.coat_minutes, ' min')}</td>
                <td className="figure pr-3">{figure(one.cure_minutes, ' min')}</td>
                <td className="figure pr-3">
                  {one.good} of {one.made}
                </td>
                <td className="pr-3">
                  {one.held + one.failed === 0 ? 'not looked yet' : `${one.held} of ${one.held + one.failed}`}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
