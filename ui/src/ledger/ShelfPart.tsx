import { useState } from 'react';

import { type Supplies, useBuy, useTakeBack, useChangeRates, useSupplies } from '../api/ledger';
import { Button } from '../kit/Button';
import { Fold } from '../kit/Fold';
import { NumberField } from '../kit/NumberField';
import { Select } from '../kit/Select';

/** What lies on the shelf, and what things cost. */
export function ShelfPart() {
  const supplies = useSupplies().data;
  const takeBack = useTakeBack();
  if (!supplies) return null;
  return (
    <section aria-label="On the shelf" className="flex flex-col gap-3">
      <h2 className="font-head text-lg font-bold">On the shelf</h2>
      {supplies.stocks.length === 0 ? (
        <p className="text-sm text-soft">
          Say what was bought, and every run takes its sheets off; a job then says whether there is enough for
          it.
        </p>
      ) : (
        <ul className="flex flex-col">
          {supplies.stocks.map((one) => (
            <li key={one.stock} className="flex items-center gap-3 border-t border-rule py-1.5 text-sm">
              <b className="w-48 shrink-0">{one.name}</b>
              <span aria-hidden className="h-2 w-40 shrink-0 overflow-hidden rounded-full bg-tray">
                <span
                  className={`block h-full ${one.low ? 'bg-bracken' : 'bg-kingfisher'}`}
                  style={{ width: `${(one.left / one.bought) * 100}%` }}
                />
              </span>
              <span className="figure">
                {one.left} of {one.bought} left
              </span>
              {one.low && <b className="text-bracken">runs low</b>}
              <span className="ml-auto text-soft">{one.sheet_price} a sheet</span>
              <Button look="bare" onClick={() => takeBack.mutate(one.newest_pack)}>
                Take the last pack back
              </Button>
            </li>
          ))}
        </ul>
      )}
      <Buy supplies={supplies} />
      <Rates supplies={supplies} />
    </section>
  );
}

function Buy({ supplies }: { supplies: Supplies }) {
  const buy = useBuy();
  const [stock, setStock] = useState(supplies.can_buy[0]?.key ?? '');
  const [sheets, setSheets] = useState(10);
  const [price, setPrice] = useState(0);
  return (
    <div
      className="flex flex-wrap items-end gap-x-4 gap-y-2"
      role="group"
      aria-label="A pack that was bought"
    >
      <Select
        label="Stock"
        options={supplies.can_buy.map((one) => ({ key: one.key, name: one.words }))}
        value={stock}
        onChange={setStock}
      />
      <NumberField
        label="Sheets in the pack"
        unit=""
        value={sheets}
        onChange={(n) => setSheets(Math.round(n))}
      />
      <NumberField
        label="Price of the pack"
        unit={supplies.rates.currency}
        value={price}
        onChange={setPrice}
      />
      <Button
        look="act"
        disabled={buy.isPending}
        onClick={() => buy.mutate({ stock, sheets, price, lot: '' })}
      >
        Put it on the shelf
      </Button>
    </div>
  );
}

const FIGURES = [
  ['hour', 'An hour of hands'],
  ['ink_ml', 'A millilitre of ink'],
  ['laminate_m2', 'A square metre of laminate'],
  ['coat', 'A coat of one sheet'],
  ['blank', 'A blank'],
  ['blade', 'A blade'],
] as const;

function Rates({ supplies }: { supplies: Supplies }) {
  const change = useChangeRates();
  const { rates } = supplies;
  return (
    <Fold title="What things cost" summary={rates.currency || 'no currency yet'}>
      <div className="flex flex-wrap gap-x-5 gap-y-3">
        <Words label="Currency" value={rates.currency} put={(currency) => change.mutate({ currency })} />
        {FIGURES.map(([key, label]) => (
          <NumberField
            key={key}
            label={label}
            unit={rates.currency}
            value={rates[key]}
            onChange={(value) => change.mutate({ [key]: value })}
          />
        ))}
        <NumberField
          label="Margin to keep"
          unit="%"
          value={Math.round(rates.margin * 100)}
          onChange={(share) => change.mutate({ margin: share / 100 })}
        />
        <Select
          label="A sheet is shared"
          options={[
            { key: 'by area', name: 'by area' },
            { key: 'evenly', name: 'evenly' },
          ]}
          value={rates.shared}
          onChange={(shared) => change.mutate({ shared })}
        />
        <Words
          label="Line about tax"
          value={rates.tax_line}
          put={(tax_line) => change.mutate({ tax_line })}
        />
      </div>
    </Fold>
  );
}

function Words({ label, value, put }: { label: string; value: string; put: (words: string) => void }) {
  const [draft, setDraft] = useState<string | null>(null);
  const take = () => {
    if (draft !== null && draft !== value) put(draft);
    setDraft(null);
  };
  return (
    <label className="flex flex-col gap-0.5 text-sm">
      {label}
      <input
        className="field w-40"
        value={draft ?? value}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => event.key === 'Enter' && take()}
      />
    </label>
  );
}
