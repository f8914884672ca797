import { scaleLinear, scaleTime } from 'd3-scale';
import { line } from 'd3-shape';

import type { Ledger } from '../api/ledger';

const WIDE = 240;
const HIGH = 56;
const RIM = 4;
const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short' });

/** How many pieces of each run came out well, over the months; one plot a stock and machine. */
export function OverTime({ plots }: { plots: Ledger['over_time'] }) {
  if (plots.length === 0) return null;
  return (
    <section aria-label="Over time" className="flex flex-col gap-2">
      <h2 className="font-head text-lg font-bold">Over time</h2>
      <p className="text-sm text-soft">
        The share of good pieces in each run, whatever spoiled the others; the table above is about the cut
        alone.
      </p>
      <div className="grid grid-cols-[repeat(auto-fill,minmax(15rem,1fr))] gap-4">
        {plots.map((plot) => (
          <Plot key={`${plot.stock}.${plot.cutter}.${plot.simulated}`} plot={plot} />
        ))}
      </div>
    </section>
  );
}

function Plot({ plot }: { plot: Ledger['over_time'][number] }) {
  const { runs } = plot;
  const times = runs.map((run) => new Date(run.at));
  const [first, last] = [times[0] ?? 0, times[times.length - 1] ?? 0];
  const x = scaleTime([first, last], [RIM, WIDE - RIM]);
  const y = scaleLinear([0, 1], [HIGH - RIM, RIM]);
  const points = runs.map((run, place): [number, number] => [x(times[place] ?? 0), y(run.share)]);
  const mean = runs.reduce((sum, run) => sum + run.share, 0) / runs.length;
  return (
    <figure className="panel flex flex-col gap-1 p-2.5">
      <figcaption className="text-sm">
        <b>{plot.stock}</b> <span className="text-soft">{plot.cutter}</span>
      </figcaption>
      <svg
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        className="w-full"
        role="img"
        aria-label={`${runs.length} runs; ${Math.round(mean * 100)} % of pieces good in the mean, ${Math.round((runs[runs.length - 1]?.share ?? 0) * 100)} % in the last one`}
      >
        <path d={`M0 ${y(1)}H${WIDE}M0 ${y(0)}H${WIDE}`} stroke="var(--rule)" strokeWidth="1" />
        <path d={line()(points) ?? ''} fill="none" stroke="var(--soft)" strokeWidth="1" />
        {points.map(([at, high], place) => (
          <circle
            key={place}
            cx={at}
            cy={high}
            r="3"
            fill={(runs[place]?.share ?? 0) < 1 ? 'var(--rowan)' : 'var(--moss)'}
          />
        ))}
      </svg>
      <span className="flex justify-between text-sm text-soft">
        <span>{day.format(first)}</span>
        <span>{Math.round(mean * 100)} % good</span>
        <span>{day.format(last)}</span>
      </span>
    </figure>
  );
}
