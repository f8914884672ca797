import { type Supplies, useChangeRates } from '../api/ledger';
import { Fold } from '../kit/Fold';
import { WordsField } from '../kit/WordsField';
import { NumberField } from '../kit/NumberField';
import { Select } from '../kit/Select';

/** What things cost here; a price that was not typed is that of what was bought last. */
export function Rates({ supplies }: { supplies: Supplies }) {
  const change = useChangeRates();
  const { rates, prices } = supplies;
  return (
    <Fold title="What things cost" summary={rates.currency || 'no currency yet'}>
      <div className="flex flex-wrap gap-x-5 gap-y-3">
        <WordsField
          label="Currency"
          value={rates.currency}
          onChange={(currency) => change.mutate({ currency })}
        />
        {prices.map((one) => (
          <span key={one.key} className="flex flex-col">
            <NumberField
              label={one.words}
              unit={rates.currency}
              value={one.typed || one.used}
              onChange={(value) => change.mutate({ [one.key]: value })}
            />
            {!one.typed && one.used > 0 && <span className="text-sm text-soft">as bought last</span>}
          </span>
        ))}
        <NumberField
          label="Margin to keep"
          unit="%"
          value={Math.round(rates.margin * 100)}
          onChange={(share) => change.mutate({ margin: share / 100 })}
        />
        <Select
          label="A sheet is shared"
          options={supplies.shares.map(({ key, words }) => ({ key, name: words }))}
          value={rates.shared}
          onChange={(shared) => change.mutate({ shared })}
        />
        <WordsField
          label="Line about tax"
          value={rates.tax_line}
          onChange={(tax_line) => change.mutate({ tax_line })}
        />
      </div>
    </Fold>
  );
}
