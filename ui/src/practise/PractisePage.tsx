import { useEffect, useState } from 'react';
import { Link, useLocation } from 'wouter';

import { type LessonCard, type PuzzleLevel, type Practise, useBeginPlay, usePractise } from '../api/practise';
import { Button } from '../kit/Button';
import { WordsField } from '../kit/WordsField';
import { Loaded } from '../look/Loaded';
import { PracticeTable } from './PracticeTable';
import { useLearner } from './learner';
import { minutesWords, sheetsWords } from './figures';

const LEVELS: readonly (readonly [PuzzleLevel, string, string])[] = [
  ['easy', 'Easy', 'few causes look like it'],
  ['middle', 'Middling', 'several causes look like it'],
  ['hard', 'Hard', 'many causes look alike'],
];

/** What there is to practise: lessons in the order of the work, one's own spoilt sheets, and free play. */
export default function PractisePage() {
  const { learner, setLearner } = useLearner();
  const practise = usePractise(learner);
  useEffect(() => {
    document.title = 'Practise · Vamper';
  }, []);
  return (
    <PracticeTable back={{ to: '/', words: 'All jobs' }}>
      <div className="flex flex-wrap items-end justify-between gap-4">
        <div className="max-w-2xl">
          <h1 className="font-head text-2xl leading-tight font-bold">Practise</h1>
          <p>
            Spoil sheets here, where they cost nothing. Each lesson is an order, a bench and something that is
            wrong with it. Find out what, and fill the order with the sheets and the time you have.
          </p>
        </div>
        <WordsField label="Who is practising?" value={learner} onChange={setLearner} hint="you" most={60} />
      </div>
      <Loaded query={practise} doing="Opening the lessons">
        {(all) => <Everything all={all} learner={learner} />}
      </Loaded>
    </PracticeTable>
  );
}

function Everything({ all, learner }: { all: Practise; learner: string }) {
  const [, go] = useLocation();
  const begin = useBeginPlay((id) => go(`/practise/plays/${id}`));
  const [level, setLevel] = useState<PuzzleLevel>('easy');
  const start = (lesson: string) => begin.mutate({ lesson, learner });
  const due = all.lessons.filter((one) => one.due);
  const score = all.scores.find((one) => one.level === level);
  return (
    <>
      {due.length > 0 && (
        <section aria-label="Due again" className="flex flex-col gap-2">
          <h2 className="font-bold">Due again, because it was lost</h2>
          <Cards lessons={due} start={start} busy={begin.isPending} />
        </section>
      )}
      <section aria-label="Lessons" className="flex flex-col gap-2">
        <h2 className="font-bold">Lessons, in the order of the work</h2>
        <Cards lessons={all.lessons.filter((one) => !one.due)} start={start} busy={begin.isPending} />
      </section>
      <section aria-label="Find the cause" className="panel flex flex-wrap items-center gap-4 p-4">
        <div className="min-w-64 flex-1">
          <h2 className="font-bold">Find the cause</h2>
          <p className="text-sm">
            A spoilt sheet, everything that is seen of it, and one cause to find with the fewest checks.{' '}
            {score && score.done > 0 && (
              <span className="text-soft">
                So far {score.right} of {score.done} right, with {score.checks} checks where a good hand makes{' '}
                {score.best_checks}.
              </span>
            )}
          </p>
        </div>
        <div role="group" aria-label="How hard" className="flex flex-wrap gap-1.5">
          {LEVELS.map(([key, name, why]) => (
            <Button
              key={key}
              look={key === level ? 'act' : 'bare'}
              aria-pressed={key === level}
              title={why}
              onClick={() => setLevel(key)}
            >
              {name}
            </Button>
          ))}
        </div>
        <Button look="main" onClick={() => go(`/practise/find/${level}/${newSeed()}`)}>
          Show a spoilt sheet
        </Button>
      </section>
      <section aria-label="Your own spoilt sheets" className="flex flex-col gap-2">
        <h2 className="font-bold">Your own spoilt sheets</h2>
        {all.runs.length === 0 ? (
          <p className="text-sm text-soft">
            None yet. Once a sheet is logged as spoilt and its cause is found at “What went wrong?”, it can be
            practised here.
          </p>
        ) : (
          <ul className="grid gap-2 md:grid-cols-2">
            {all.runs.map((run) => (
              <li key={run.key} className="panel flex items-center justify-between gap-3 p-3">
                <span className="min-w-0">
                  <b className="block truncate">{run.title}</b>
                  <span className="text-sm text-soft">{run.cause}</span>
                </span>
                <Button disabled={begin.isPending} onClick={() => start(run.key)}>
                  Practise it
                </Button>
              </li>
            ))}
          </ul>
        )}
      </section>
    </>
  );
}

/** So that nobody meets the same sheet twice by chance. */
const newSeed = () => Math.floor(Math.random() * 2 ** 20);

interface CardsProps {
  lessons: LessonCard[];
  start: (lesson: string) => void;
  busy: boolean;
}

function Cards({ lessons, start, busy }: CardsProps) {
  return (
    <ol className="grid gap-2 md:grid-cols-2">
      {lessons.map((one) => (
        <li key={one.key} className="panel flex items-center justify-between gap-4 p-3">
          <div className="min-w-0">
            <h3 className="font-bold">{one.title}</h3>
            <p className="text-sm leading-snug">{one.aim}</p>
            <p className="text-sm text-soft">
              {sheetsWords(one.sheets)}, {minutesWords(one.minutes)}
              {standing(one)}
            </p>
          </div>
          {one.open_play ? (
            <Link
              href={`/practise/plays/${one.open_play}`}
              className="shrink-0 rounded-[6px] border border-kingfisher bg-paper px-3 py-1.5 text-sm font-bold text-kingfisher"
              aria-label={`Go on: ${one.title}`}
            >
              Go on
            </Link>
          ) : (
            <Button
              look={one.passed > 0 ? 'plain' : 'act'}
              className="shrink-0"
              disabled={busy}
              aria-label={`${one.played > 0 ? 'Play again' : 'Begin'}: ${one.title}`}
              onClick={() => start(one.key)}
            >
              {one.played > 0 ? 'Play again' : 'Begin'}
            </Button>
          )}
        </li>
      ))}
    </ol>
  );
}

function standing(one: LessonCard) {
  if (one.played === 0) return '';
  if (one.last_passed) return ` · filled ${one.passed} of ${one.played} times`;
  return one.due ? ' · lost the last time' : ' · lost the last time, back tomorrow';
}
