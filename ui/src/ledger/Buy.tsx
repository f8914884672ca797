import { useState } from 'react';

import { type Supplies, useBuy, useBuyThing, useChangeRates } from '../api/ledger';
import { useCatalog } from '../api/jobs';
import { region } from '../kit/region';
import { Button } from '../kit/Button';
import { WordsField } from '../kit/WordsField';
import { NumberField } from '../kit/NumberField';
import { Select } from '../kit/Select';

/** What came onto the shelf: a pack of stock, or anything else that is used up. */
export function Buy({ supplies }: { supplies: Supplies }) {
  const pack = useBuy();
  const thing = useBuyThing();
  const [what, setWhat] = useState(supplies.can_buy[0]?.key ?? '');
  const [amount, setAmount] = useState(10);
  const [price, setPrice] = useState(0);
  const [note, setNote] = useState('');
  const proposed = useCatalog().data?.regions.currencies[region()] ?? '';
  const [typed, setTyped] = useState<string | null>(null);
  const rates = useChangeRates();
  const currency = supplies.rates.currency || (typed ?? proposed);
  const other = supplies.can_buy_things.find((one) => one.key === what);
  const buy = () => {
    if (price && !supplies.rates.currency && currency) rates.mutate({ currency });
    const done = { onSuccess: () => setNote('') };
    if (other) thing.mutate({ thing: other.key, amount, price, name: note }, done);
    else pack.mutate({ stock: what, sheets: Math.round(amount), price, lot: note }, done);
  };
  return (
    <div className="flex flex-wrap items-end gap-x-4 gap-y-2" role="group" aria-label="What was bought">
      <Select
        label="Bought"
        options={[
          ...supplies.can_buy.map((one) => ({ key: one.key, name: one.words })),
          ...supplies.can_buy_things.map((one) => ({ key: one.key, name: one.name })),
        ]}
        value={what}
        onChange={setWhat}
      />
      <NumberField
        label={other ? `How much: ${other.bought_by}` : 'Sheets in the pack'}
        unit={other?.unit ?? ''}
        value={amount}
        onChange={setAmount}
      />
      <NumberField label="Price of all" unit={currency} value={price} onChange={setPrice} />
      {!supplies.rates.currency && <WordsField label="Paid in" value={currency} onChange={setTyped} />}
      <WordsField
        label={other ? 'What it is called' : 'Lot, if it has one'}
        value={note}
        onChange={setNote}
      />
      <Button look="act" disabled={pack.isPending || thing.isPending} onClick={buy}>
        Put it on the shelf
      </Button>
    </div>
  );
}
