import { useState } from 'react';

import type { Changer } from '../api/changes';
import type { Schemas } from '../api/client';
import { useCatalog } from '../api/jobs';
import { useHideStock, useKeepStock, useProposeStock, useRemoveStock, useStocks } from '../api/shop';
import { Button } from '../kit/Button';
import { NumberField } from '../kit/NumberField';
import { Select } from '../kit/Select';
import { Window } from '../kit/Window';
import { asSentence } from '../kit/words';
import { StockForm } from './StockForm';

type Stock = Schemas['Stock'];

interface Props {
  open: boolean;
  close: () => void;
  change: Changer;
}

/** The stocks of the workshop: copied, changed, put aside, or a new one from its thickness or weight. */
export function StockWindow({ open, close, change }: Props) {
  const [draft, setDraft] = useState<{ key: string | null; stock: Stock } | null>(null);
  const keep = useKeepStock();
  const done = () => {
    setDraft(null);
    close();
  };
  const title = draft ? (draft.key ? 'Change this stock' : 'A stock of your own') : 'Stocks of the workshop';
  return (
    <Window title={title} open={open} close={done}>
      {draft ? (
        <StockForm
          stock={draft.stock}
          isNew={draft.key === null}
          error={keep.error?.message}
          back={() => setDraft(null)}
          save={(stock) =>
            keep.mutate(
              { key: draft.key, stock },
              {
                onSuccess: (key) => {
                  if (draft.key === null) change({ label: `out of ${stock.name}`, changes: { stock: key } });
                  done();
                },
              },
            )
          }
        />
      ) : (
        <>
          <NewStock take={(stock) => setDraft({ key: null, stock })} />
          <Shelf take={(key, stock) => setDraft({ key, stock })} />
        </>
      )}
    </Window>
  );
}

const KNOWN = [
  { key: 'face_um', name: 'how thick its face is, without backing' },
  { key: 'grams_m2', name: 'its weight in g/m²' },
  { key: 'pounds', name: 'its weight in lb' },
] as const;

/** A stock that nobody has cut yet: what it is, and how thick or how heavy. */
function NewStock({ take }: { take: (stock: Stock) => void }) {
  const catalog = useCatalog().data;
  const propose = useProposeStock();
  const [name, setName] = useState('');
  const [kind, setKind] = useState('card');
  const [by, setBy] = useState<'face_um' | 'grams_m2' | 'pounds'>('face_um');
  const [amount, setAmount] = useState(0);
  const [basis, setBasis] = useState('cover');
  const units = { face_um: 'µm', grams_m2: 'g/m²', pounds: 'lb' } as const;
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        propose.mutate(
          {
            name: name.trim(),
            stock_class: kind as Stock['stock_class'],
            [by]: amount,
            ...(by === 'pounds' ? { basis } : {}),
          },
          { onSuccess: take },
        );
      }}
    >
      <h3 className="font-head text-base font-bold">A new one</h3>
      <div className="grid grid-cols-2 gap-3">
        <label className="flex flex-col gap-0.5 text-sm">
          What you call it
          <input
            className="field"
            maxLength={100}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <Select label="What it is" options={catalog?.stock_classes ?? []} value={kind} onChange={setKind} />
        <Select
          label="What you know of it"
          options={KNOWN}
          value={by}
          onChange={(key) => setBy(key as typeof by)}
        />
        <NumberField label="How much" unit={units[by]} value={amount} onChange={setAmount} />
        {by === 'pounds' && (
          <Select label="Pounds of" options={catalog?.paper_bases ?? []} value={basis} onChange={setBasis} />
        )}
      </div>
      {propose.error && (
        <p className="text-rowan" role="alert">
          {asSentence(propose.error.message)}
        </p>
      )}
      <Button type="submit" look="main" className="self-start" disabled={!name.trim()}>
        Find similar stocks
      </Button>
    </form>
  );
}

/** All stocks: a starter is copied to be changed, one that is not used is put aside. */
function Shelf({ take }: { take: (key: string | null, stock: Stock) => void }) {
  const stocks = useStocks().data ?? [];
  const hide = useHideStock();
  const remove = useRemoveStock();
  const groups = [...new Set(stocks.map((one) => one.group))];
  return (
    <div className="mt-5 flex flex-col gap-3 border-t border-rule pt-3">
      {remove.error && (
        <p className="text-rowan" role="alert">
          {asSentence(remove.error.message)}
        </p>
      )}
      {groups.map((group) => (
        <section key={group} aria-label={group}>
          <h3 className="font-head text-sm font-bold text-soft">{group}</h3>
          <ul>
            {stocks
              .filter((one) => one.group === group)
              .map((one) => (
                <li key={one.key} className="flex flex-wrap items-center justify-between gap-x-3 py-0.5">
                  <span className={one.hidden ? 'text-soft' : ''}>
                    {one.stock.name}
                    {one.own && <b className="text-kingfisher"> yours</b>}
                    {one.hidden && ', put aside'}
                  </span>
                  <span className="flex gap-1">
                    {one.own && (
                      <Button
                        look="bare"
                        aria-label={`Change ${one.stock.name}`}
                        onClick={() => take(one.key, one.stock)}
                      >
                        Change
                      </Button>
                    )}
                    <Button
                      look="bare"
                      aria-label={`Copy ${one.stock.name}`}
                      onClick={() =>
                        take(null, {
                          ...one.stock,
                          name: `${one.stock.name}, mine`,
                          like: one.stock.name,
                          use: '',
                        })
                      }
                    >
                      Copy
                    </Button>
                    <Button
                      look="bare"
                      aria-label={`${one.hidden ? 'Offer again' : 'Put aside'} ${one.stock.name}`}
                      onClick={() => hide.mutate({ key: one.key, hidden: !one.hidden })}
                    >
                      {one.hidden ? 'Offer again' : 'Put aside'}
                    </Button>
                    {one.own && (
                      <Button
                        look="bare"
                        aria-label={`Remove ${one.stock.name}`}
                        onClick={() => remove.mutate(one.key)}
                      >
                        Remove
                      </Button>
                    )}
                  </span>
                </li>
              ))}
          </ul>
        </section>
      ))}
    </div>
  );
}
