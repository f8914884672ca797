import { useEffect } from 'react';
import { Link } from 'wouter';

import { CALENDAR_URL, useClearEvening, useEvening } from '../api/finish';
import { Button } from '../kit/Button';
import { useClock } from '../kit/clock';
import { asSentence } from '../kit/words';
import { Lanes } from './Lanes';
import { NowCards } from './NowCards';
import { RunSheet } from './RunSheet';
import { TimesFold } from './TimesFold';
import { useChime } from './useChime';

/** The evening: what is to be done now, large; the hours as lanes below; what slipped, in a sentence. */
export default function TonightPage() {
  const query = useEvening();
  const evening = query.data;
  const clear = useClearEvening();
  const now = useClock(evening?.now, query.dataUpdatedAt);
  const chime = useChime(evening, now);
  useEffect(() => {
    document.title = `${chime.ringing ? '● ' : ''}Tonight · Vamper`;
  }, [chime.ringing]);
  return (
    <main className="mx-auto flex min-h-full max-w-6xl flex-col gap-4 px-6 py-5 max-[40rem]:px-4 print:block">
      <header className="flex flex-wrap items-center justify-between gap-3 print:hidden">
        <Link href="/" className="font-bold text-kingfisher underline">
          All jobs
        </Link>
        <span className="flex flex-wrap gap-2">
          <Button onClick={chime.toggle} aria-pressed={chime.on}>
            {chime.on ? 'Sound is on' : 'Sound is off'}
          </Button>
          <span className="contents max-[40rem]:hidden">
            {evening && evening.batches.length > 0 && (
              <a
                href={CALENDAR_URL}
                download
                className="inline-flex items-center rounded-[6px] border border-rule bg-paper px-3 py-1.5 text-sm leading-tight hover:border-kingfisher"
              >
                Calendar file
              </a>
            )}
            <Button onClick={() => window.print()}>Print the run sheet</Button>
          </span>
          {evening && evening.batches.length > 0 && (
            <Button look="bare" onClick={() => clear.mutate()}>
              Clear the evening
            </Button>
          )}
        </span>
      </header>
      <h1 className="font-head text-2xl leading-tight font-bold print:hidden">Tonight at the bench</h1>
      {query.error && <p className="text-rowan">{asSentence(query.error.message)}</p>}
      {evening && evening.batches.length === 0 && (
        <p className="panel max-w-xl p-5">
          Nothing is planned yet. Open a job, go to <b>Finish</b>, and press <b>Plan it for tonight</b>;
          several jobs share your hands, the oven and the press, and are laid side by side here.
        </p>
      )}
      {evening && evening.batches.length > 0 && (
        <>
          <p className="text-lg leading-snug print:hidden" role="status">
            {evening.verdict}
          </p>
          {evening.notes.length > 0 && (
            <ul className="flex flex-col gap-1 print:hidden" aria-label="What to know">
              {evening.notes.map((note) => (
                <li key={note.text} className="border-l-[3px] border-bracken pl-2.5 text-sm">
                  {note.text}
                </li>
              ))}
            </ul>
          )}
          <NowCards evening={evening} now={now} ringing={chime.ringing} />
          <Lanes evening={evening} now={now} />
          <TimesFold evening={evening} />
          <p className="text-sm font-bold print:hidden">{evening.always}</p>
          <RunSheet evening={evening} />
        </>
      )}
    </main>
  );
}
