import { Link } from 'wouter';

import { useCost } from '../../api/ledger';
import { Fold } from '../../kit/Fold';

const LOOK: Record<string, string> = {
  stock: 'bg-kingfisher',
  ink: 'bg-bracken',
  hands: 'bg-moss',
  waste: 'bg-rowan',
};

/** What a piece costs, by part, and what to ask for it. */
export function CostFold({ jobId, from }: { jobId: number; from: string }) {
  const cost = useCost(jobId, from).data;
  if (!cost) return null;
  return (
    <Fold title="What a piece costs" summary={cost.known ? `${cost.total} in all` : 'no prices yet'}>
      {!cost.known && (
        <p className="text-sm">
          Put a pack on the shelf and say what things cost, in the{' '}
          <Link href="/ledger" className="font-bold text-kingfisher underline">
            ledger
          </Link>
          .
        </p>
      )}
      {cost.known &&
        cost.pieces.map((piece) => (
          <div key={piece.number} className="flex flex-col gap-1">
            <p className="flex justify-between gap-3">
              <b>{piece.name}</b>
              <span className="figure">{piece.cost}</span>
            </p>
            <span aria-hidden className="flex h-2 w-full overflow-hidden rounded-full bg-tray">
              {piece.parts.map((one) => (
                <span
                  key={one.part}
                  className={LOOK[one.part] ?? 'bg-soft'}
                  style={{ width: `${one.share * 100}%` }}
                />
              ))}
            </span>
            <p className="text-sm text-soft">
              {piece.parts.map((one) => `${one.part} ${one.cost}`).join(', ')}
            </p>
            <p className="text-sm">
              Ask <b className="figure">{piece.by_margin}</b> by margin,{' '}
              <b className="figure">{piece.by_hour}</b> by the hour.
            </p>
          </div>
        ))}
      {cost.products.map((one) => (
        <div key={one.name} className="flex flex-col gap-0.5 border-t border-rule pt-2">
          <p className="flex justify-between gap-3">
            <b>
              {one.quantity} × {one.name}
            </b>
            <span className="figure">{one.cost}</span>
          </p>
          <p className="text-sm">
            Its material alone <b className="figure">{one.material}</b>; ask{' '}
            <b className="figure">{one.by_margin}</b> for one.
          </p>
        </div>
      ))}
      {cost.known && (
        <ul className="flex flex-col gap-1 text-sm">
          {cost.lines.map((line) => (
            <li key={line}>{line}</li>
          ))}
          {cost.tax_line && <li className="text-soft">{cost.tax_line}</li>}
        </ul>
      )}
    </Fold>
  );
}
