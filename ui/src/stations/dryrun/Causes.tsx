import type { Outcome } from '../../api/twin';

/** What spoiled pieces, each with its share of all that was not good. */
export function Causes({ outcome }: { outcome: Outcome }) {
  if (!outcome.causes.length) return <p className="text-sm text-soft">Nothing was spoiled in any run.</p>;
  return (
    <section aria-label="What spoils it">
      <h2 className="mb-1.5 font-head text-base font-bold">What spoils it</h2>
      <ul className="flex flex-col gap-2">
        {outcome.causes.map((cause) => (
          <li key={cause.cause}>
            <div className="flex items-baseline justify-between gap-2">
              <b className="leading-tight">{cause.name}</b>
              <span className="figure shrink-0 text-sm">{cause.said} %</span>
            </div>
            <div aria-hidden className="my-1 h-1.5 rounded-full bg-rule">
              <div
                className="h-full rounded-full bg-rowan"
                style={{ width: `${Math.max(1, cause.share * 100)}%` }}
              />
            </div>
            <p className="text-sm text-soft">{cause.words}</p>
          </li>
        ))}
      </ul>
    </section>
  );
}
