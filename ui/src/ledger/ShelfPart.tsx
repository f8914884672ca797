import { useTakeBack, useSupplies } from '../api/ledger';
import { Button } from '../kit/Button';
import { Buy } from './Buy';
import { Rates } from './Rates';

/** What lies on the shelf and in the machines, and what things cost. */
export function ShelfPart() {
  const supplies = useSupplies().data;
  const takeBack = useTakeBack();
  if (!supplies) return null;
  return (
    <section aria-label="On the shelf" className="flex flex-col gap-3">
      <h2 className="font-head text-lg font-bold">On the shelf</h2>
      {supplies.stocks.length + supplies.things.length === 0 ? (
        <p className="text-sm text-soft">
          Enter what you bought. Each run takes its share off, and a job tells you whether there is enough
          left for it.
        </p>
      ) : (
        <ul className="flex flex-col">
          {supplies.stocks.map((one) => (
            <Row
              key={one.stock}
              name={one.name}
              words={`${one.left} of ${one.bought} sheets left`}
              share={one.left / one.bought}
              low={one.low}
              price={`${one.sheet_price} a sheet`}
              back={() => takeBack.mutate(one.newest_pack)}
            />
          ))}
          {supplies.things.map((one) => (
            <Row
              key={one.thing}
              name={one.name}
              words={one.words}
              share={one.share_left}
              low={one.low}
              price={one.price}
              back={() => takeBack.mutate(one.newest)}
            />
          ))}
        </ul>
      )}
      {supplies.in_machines.length > 0 && (
        <>
          <h3 className="font-bold">In the machines</h3>
          <ul className="flex flex-col">
            {supplies.in_machines.map((one) => (
              <Row
                key={`${one.what}.${one.name}`}
                name={one.name}
                words={one.words}
                share={one.share_left}
                low={one.low}
                price={one.machine}
              />
            ))}
          </ul>
        </>
      )}
      <Buy supplies={supplies} />
      <Rates supplies={supplies} />
    </section>
  );
}

interface RowProps {
  name: string;
  words: string;
  share: number | null;
  low: boolean;
  price: string;
  back?: () => void;
}

function Row({ name, words, share, low, price, back }: RowProps) {
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-rule py-1.5 text-sm">
      <b className="w-44 shrink-0">{name}</b>
      <span aria-hidden className="h-2 w-40 shrink-0 overflow-hidden rounded-full bg-tray">
        {share !== null && (
          <span
            className={`block h-full ${low ? 'bg-bracken' : 'bg-kingfisher'}`}
            style={{ width: `${share * 100}%` }}
          />
        )}
      </span>
      <span className="figure">{words}</span>
      {low && <b className="text-bracken">runs low</b>}
      <span className="ml-auto text-soft">{price}</span>
      {back && (
        <Button look="bare" onClick={back}>
          Take the last one back
        </Button>
      )}
    </li>
  );
}
