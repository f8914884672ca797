import { Link } from 'wouter';

import type { Schemas } from '../api/client';
import { Bead } from '../kit/Bead';

const NAMES: Record<Schemas['Station'], string> = {
  art: 'Art',
  edge: 'Edge',
  sheet: 'Sheet',
  marks: 'Marks',
  print: 'Print',
  cut: 'Cut',
  'dry-run': 'Dry run',
  finish: 'Finish',
};

interface Props {
  jobId: number;
  stations: Schemas['StationFigure'][];
  current: Schemas['Station'];
}

/** The line of stations: beads on a thread, each with its one figure. */
export function Rail({ jobId, stations, current }: Props) {
  return (
    <nav
      aria-label="Stations"
      className="w-[min(10rem,16vw)] shrink-0 overflow-y-auto border-r border-rule py-2 [@media(max-height:790px)]:py-0.5"
    >
      <ol>
        {stations.map(({ station, figure, detail, state }, index) => (
          <li key={station} className="relative">
            {index < stations.length - 1 && (
              <span aria-hidden className="absolute top-7 -bottom-4 left-[22px] z-10 w-px bg-rule" />
            )}
            <Link
              href={`/jobs/${jobId}/${station}`}
              aria-current={station === current ? 'step' : undefined}
              className={`flex gap-3 border-l-[3px] py-1.5 pr-2 pl-3 hover:bg-tray [@media(max-height:790px)]:py-0 ${
                station === current ? 'border-kingfisher bg-paper' : 'border-transparent'
              }`}
            >
              <span className="relative z-20 pt-1">
                <Bead state={state} />
              </span>
              <span className="min-w-0 leading-snug [@media(max-height:790px)]:leading-tight">
                <span className="block font-head text-base font-bold">
                  {NAMES[station]}
                  {state === 'stop' && <span className="ml-1.5 text-sm text-rowan">stop</span>}
                </span>
                <span className="figure block">{figure}</span>
                <span className="block text-sm text-soft">{detail}</span>
              </span>
            </Link>
          </li>
        ))}
      </ol>
    </nav>
  );
}
