/** What is made and sold as one thing: one or more prints, a blank, small parts with their prices. */
import { useState } from 'react';

import type { Changer } from '../../api/changes';
import type { Schemas } from '../../api/client';
import type { View } from '../../api/view';
import { Button } from '../../kit/Button';
import { CountField } from '../../kit/CountField';
import { Fold } from '../../kit/Fold';
import { NumberField } from '../../kit/NumberField';
import { Tick } from '../../kit/Tick';
import { WordsField } from '../../kit/WordsField';

type Product = Schemas['ProductSpec'];

export function ProductsFold({ view, change }: { view: View; change: Changer }) {
  const { products = [], items = [] } = view.job.document;
  const put = (next: Product[], label: string) => change({ label, changes: { products: next } });
  const set = (at: number, with_: Partial<Product>) =>
    put(
      products.map((one, place) => (place === at ? { ...one, ...with_ } : one)),
      'product',
    );
  const taken = new Set(products.flatMap((one) => one.items));
  const free = items.filter((item) => !taken.has(item.number));
  return (
    <Fold
      title="Products"
      summary={products.length ? products.map((one) => one.name).join(', ') : 'each piece'}
    >
      {products.map((one, place) => (
        <section
          key={one.name}
          aria-label={one.name}
          className="flex flex-col gap-2 border-t border-rule pt-2"
        >
          <p className="flex items-baseline justify-between gap-2">
            <b>{one.name}</b>
            <Button
              look="bare"
              onClick={() =>
                put(
                  products.filter((_, at) => at !== place),
                  'no product',
                )
              }
            >
              Each on its own again
            </Button>
          </p>
          <p className="text-sm text-soft">
            {one.items.map((number) => items.find((item) => item.number === number)?.name ?? '').join(' + ')}
          </p>
          <div className="flex flex-wrap items-end gap-3 text-sm">
            <span className="flex flex-col gap-0.5">
              How many
              <CountField
                label={`How many of ${one.name}`}
                value={one.quantity ?? 1}
                onChange={(quantity) => set(place, { quantity })}
              />
            </span>
            <WordsField
              label="Blank"
              hint="pendant, tag"
              most={80}
              value={one.blank ?? ''}
              onChange={(blank) => set(place, { blank })}
            />
            <NumberField
              label="Its price"
              unit=""
              value={one.blank_price ?? 0}
              onChange={(price) => set(place, { blank_price: price })}
            />
          </div>
          <Parts parts={one.parts ?? []} set={(parts) => set(place, { parts })} />
        </section>
      ))}
      {free.length > 0 && (
        <NewProduct
          key={products.length}
          free={free}
          add={(product) => put([...products, product], `product ${product.name}`)}
        />
      )}
    </Fold>
  );
}

type Part = Schemas['ProductPart'];

function Parts({ parts, set }: { parts: Part[]; set: (parts: Part[]) => void }) {
  const [name, setName] = useState('');
  const [price, setPrice] = useState(0);
  return (
    <>
      <ul className="flex flex-col gap-1 text-sm">
        {parts.map((part, at) => (
          <li key={at} className="flex items-baseline justify-between gap-2">
            <span>
              {part.name}, <span className="figure">{(part.price ?? 0).toFixed(2)}</span>
            </span>
            <Button look="bare" onClick={() => set(parts.filter((_, other) => other !== at))}>
              {`Remove ${part.name}`}
            </Button>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap items-end gap-3">
        <WordsField label="Small part" hint="cord, ring" most={80} value={name} onChange={setName} />
        <NumberField label="Price" unit="" value={price} onChange={setPrice} />
        <Button
          disabled={!name.trim()}
          onClick={() => {
            set([...parts, { name: name.trim(), price, count: 1 }]);
            setName('');
            setPrice(0);
          }}
        >
          Add the part
        </Button>
      </div>
    </>
  );
}

interface NewProps {
  free: { number: number; name: string; quantity: number }[];
  add: (product: Product) => void;
}

function NewProduct({ free, add }: NewProps) {
  const [name, setName] = useState('');
  const [chosen, setChosen] = useState<number[]>([]);
  const first = free.find((item) => item.number === chosen[0]);
  return (
    <section aria-label="A new product" className="flex flex-col gap-2 border-t border-rule pt-2 text-sm">
      <p>Prints that become one thing, such as the two sides of a pendant:</p>
      {free.map((item) => (
        <Tick
          key={item.number}
          on={chosen.includes(item.number)}
          label={item.name}
          set={(on) => setChosen(on ? [...chosen, item.number] : chosen.filter((one) => one !== item.number))}
        />
      ))}
      <WordsField label="What it is" hint="pendant" most={80} value={name} onChange={setName} />
      <Button
        className="self-start"
        disabled={!name.trim() || chosen.length === 0}
        onClick={() =>
          add({
            name: name.trim(),
            items: chosen,
            quantity: first?.quantity ?? 1,
            blank: '',
            blank_price: 0,
            parts: [],
          })
        }
      >
        Make them one product
      </Button>
    </section>
  );
}
