import { useEffect, useRef, useState } from 'react';
import { useLocation } from 'wouter';

import { type PuzzleAnswer, type PuzzleLevel, puzzlePictureUrl, useAnswer, usePuzzle } from '../api/practise';
import { Button } from '../kit/Button';
import { Loaded } from '../look/Loaded';
import { SymptomPicture } from '../look/SymptomPicture';
import { minutesWords, PICTURE_SIZES, PICTURE_WORDS } from './figures';
import { useLearner } from './learner';
import { PracticeTable } from './PracticeTable';

/** A spoilt sheet: look, check as little as you need, and say what it was. */
export default function PuzzlePage({ level, seed }: { level: PuzzleLevel; seed: number }) {
  const [checked, setChecked] = useState<string[]>([]);
  const puzzle = usePuzzle(level, seed, checked);
  const answer = useAnswer();
  const learner = useLearner((state) => state.learner);
  const [, go] = useLocation();
  useEffect(() => {
    document.title = 'Find the cause · Practise · Vamper';
  }, []);
  return (
    <PracticeTable back={{ to: '/practise', words: 'All lessons' }}>
      <h1 className="font-head text-2xl leading-tight font-bold">Find the cause</h1>
      <Loaded query={puzzle} doing="Printing and cutting the sheet">
        {(one) => (
          <div className="grid grid-cols-[minmax(0,1fr)_26rem] items-start gap-5 max-[60rem]:grid-cols-1">
            <section aria-label="What is seen" className="panel flex flex-col gap-3 p-4">
              <ul className="flex flex-wrap gap-4">
                {one.seen.map((seen) => (
                  <li key={seen.key} className="flex items-center gap-2">
                    <SymptomPicture symptom={seen.key} />
                    {seen.words}
                  </li>
                ))}
              </ul>
              {one.known.length > 0 && (
                <p className="text-sm">Known: {one.known.map((fact) => fact.words).join('; ')}.</p>
              )}
              <div className="flex flex-wrap items-start gap-4">
                {one.shows.map((what) => (
                  <figure key={what} className="flex min-w-0 flex-col gap-1">
                    <img
                      src={puzzlePictureUrl(level, seed, what)}
                      alt={PICTURE_WORDS[what]}
                      className={`rounded-[4px] border border-rule bg-tray ${PICTURE_SIZES[what]}`}
                    />
                    <figcaption className="text-sm text-soft">{PICTURE_WORDS[what]}</figcaption>
                  </figure>
                ))}
              </div>
            </section>
            {answer.data ? (
              <Answered
                answer={answer.data}
                checks={checked.length}
                another={() => go(`/practise/find/${level}/${seed + 1}`)}
              />
            ) : (
              <div className="flex flex-col gap-4">
                {one.asked.length > 0 && (
                  <section aria-label="Checked" className="panel p-3 text-sm">
                    <ul className="flex flex-col gap-1">
                      {one.asked.map((check) => (
                        <li key={check.key}>
                          {check.words} <b>{check.yes ? 'Yes.' : 'No.'}</b>
                        </li>
                      ))}
                    </ul>
                  </section>
                )}
                <section aria-label="Checks" className="flex flex-col gap-1.5">
                  <h2 className="font-bold">Check something</h2>
                  <ul className="flex flex-col gap-1">
                    {one.checks.map((check) => (
                      <li key={check.key}>
                        <button
                          type="button"
                          className="panel flex w-full items-center justify-between gap-3 px-3 py-1.5 text-left text-sm leading-snug hover:border-kingfisher"
                          onClick={() => setChecked([...checked, check.key])}
                        >
                          {check.ask}
                          <span className="shrink-0 text-soft">{minutesWords(check.minutes)}</span>
                        </button>
                      </li>
                    ))}
                  </ul>
                </section>
                <section aria-label="It was this" className="flex flex-col gap-1.5">
                  <h2 className="font-bold">Say what it was</h2>
                  <ul className="flex flex-col gap-1">
                    {one.causes.map((cause) => (
                      <li key={cause.key}>
                        <button
                          type="button"
                          className="panel w-full px-3 py-1.5 text-left text-sm leading-snug hover:border-kingfisher"
                          disabled={answer.isPending}
                          onClick={() => answer.mutate({ level, seed, checked, cause: cause.key, learner })}
                        >
                          {cause.words}
                        </button>
                      </li>
                    ))}
                  </ul>
                </section>
              </div>
            )}
          </div>
        )}
      </Loaded>
    </PracticeTable>
  );
}

interface AnsweredProps {
  answer: PuzzleAnswer;
  checks: number;
  another: () => void;
}

function Answered({ answer, checks, another }: AnsweredProps) {
  const best = answer.best.length;
  const title = useRef<HTMLHeadingElement>(null);
  useEffect(() => title.current?.focus(), []);
  return (
    <section aria-label="What it was" aria-live="polite" className="panel flex flex-col gap-3 p-4">
      <h2 ref={title} tabIndex={-1} className="font-head text-xl font-bold outline-none">
        {answer.right ? 'Right.' : 'No, it was something else.'}
      </h2>
      <p>
        <b>{answer.words}</b> {answer.remedy}
      </p>
      <p>
        You made {checks === 1 ? '1 check' : `${checks} checks`}; a good hand makes {best}
        {best > 0 ? ':' : ', the picture is enough.'}
      </p>
      {best > 0 && (
        <ul className="flex flex-col gap-1 text-sm">
          {answer.best.map((check) => (
            <li key={check.key}>
              {check.words} <b>{check.yes ? 'Yes.' : 'No.'}</b>
            </li>
          ))}
        </ul>
      )}
      <Button look="main" className="self-start" onClick={another}>
        Show another one
      </Button>
    </section>
  );
}
