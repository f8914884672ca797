/** What could be pressed on this cloth, side by side; another one is taken with one press. */
import type { Changer } from '../../api/changes';
import type { Pieces } from '../../api/finish';
import { Button } from '../../kit/Button';

type Product = NonNullable<Pieces['cloth']>['products'][number];
const ROWS = [
  ['Feels', 'feel'],
  ['Edge', 'sharp'],
  ['Wash', 'wash'],
  ['Weeding', 'weed'],
  ['A sheet', 'price'],
] as const;

export function ClothProducts({ products, change }: { products: Product[]; change: Changer }) {
  if (products.length < 2) return null;
  return (
    <section aria-label="What would work on this cloth" className="flex flex-col gap-2 px-5 pb-5">
      <h3 className="font-bold">What would work on this cloth</h3>
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(15rem,1fr))] gap-3">
        {products.map((one) => (
          <li
            key={one.key}
            className={`panel flex flex-col gap-1 p-3 ${one.chosen ? 'border-kingfisher' : ''}`}
          >
            <b>{one.name}</b>
            <dl className="grid grid-cols-[4.5rem_1fr] gap-x-2 text-sm">
              {ROWS.filter(([, field]) => one[field]).map(([name, field]) => (
                <div key={field} className="contents">
                  <dt className="text-soft">{name}</dt>
                  <dd>{one[field]}</dd>
                </div>
              ))}
            </dl>
            {one.against && <p className="text-sm text-bracken">{one.against}</p>}
            {one.chosen ? (
              <p className="text-sm text-soft">in this job</p>
            ) : (
              <Button
                className="self-start"
                onClick={() => change({ label: one.name, changes: { stock: one.key } })}
              >
                {`Take ${one.name}`}
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
