import { Link } from 'wouter';

import type { LessonMove, Play } from '../api/practise';
import { costWords } from './figures';

interface MovesProps {
  name: string;
  moves: LessonMove[];
  play: Play;
  busy: boolean;
  make: (code: string) => void;
}

/** Moves of one sort, each with what it takes. */
export function Moves({ name, moves, play, busy, make }: MovesProps) {
  if (moves.length === 0) return null;
  return (
    <section aria-label={name} className="flex flex-col gap-1.5">
      <h2 className="font-bold">{name}</h2>
      <ul className="flex flex-col gap-1.5">
        {moves.map((one) => (
          <li key={one.code} className="panel flex items-stretch">
            <button
              type="button"
              className="flex min-w-0 flex-1 items-center justify-between gap-3 rounded-[6px] px-3 py-2 text-left text-sm leading-snug hover:bg-tray disabled:opacity-60"
              disabled={busy}
              onClick={() => make(one.code)}
            >
              <span className={one.kind === 'make' ? 'font-bold' : ''}>{one.text}</span>
              <span className="shrink-0 text-right text-soft">{costWords(one.minutes, one.sheets)}</span>
            </button>
          </li>
        ))}
      </ul>
      {name === 'Mend or change' && (
        <p className="text-sm">
          <Link
            href={`/jobs/${play.job_id}/${play.station === 'print' ? 'print' : play.station}`}
            className="text-kingfisher underline"
          >
            Open the practice job
          </Link>{' '}
          <span className="text-soft">and change it there yourself: a minute for each thing you change.</span>
        </p>
      )}
    </section>
  );
}
