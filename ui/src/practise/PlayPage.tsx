import { useEffect, useRef, useState } from 'react';

import { type LessonMove, type Play, type PlayStep, useGiveUp, useMove, usePlay } from '../api/practise';
import { Button } from '../kit/Button';
import { Explained } from '../look/Explained';
import { Loaded } from '../look/Loaded';
import { Afterwards } from './Afterwards';
import { minutesWords, sheetsWords } from './figures';
import { Moves } from './Moves';
import { PracticeTable } from './PracticeTable';
import { SeenStep } from './SeenStep';

const GROUPS: readonly (readonly [string, readonly LessonMove['kind'][]])[] = [
  ['Look and ask', ['look', 'hint']],
  ['Mend or change', ['mend', 'change', 'wait']],
  ['Make', ['make']],
];

/** One lesson as it is played: the order, what was seen, what was done, and what can be done now. */
export default function PlayPage({ id }: { id: number }) {
  const play = usePlay(id);
  useEffect(() => {
    if (play.data) document.title = `${play.data.title} · Practise · Vamper`;
  }, [play.data]);
  return (
    <PracticeTable back={{ to: '/practise', words: 'All lessons' }}>
      <Loaded query={play} doing="Opening the lesson">
        {(one) => <Table play={one} />}
      </Loaded>
    </PracticeTable>
  );
}

function Table({ play }: { play: Play }) {
  const move = useMove(play.id);
  const giveUp = useGiveUp(play.id);
  const [asked, setAsked] = useState(false);
  const steps = play.steps;
  const [opened, setOpened] = useState<number | null>(null);
  // The newest one with a picture is shown, until another is asked for.
  const newest = steps.findLastIndex((one) => one.shows.length > 0) + 1;
  const shown = opened ?? newest;
  const seen = useRef<HTMLHeadingElement>(null);
  const make = (code: string) => {
    setOpened(null);
    move.mutate(code, {
      // The move that was pressed may be gone: whoever goes on by keyboard is at what it showed.
      onSuccess: (after) => {
        const shows = after.steps.at(-1)?.shows.length;
        if (!after.end && (shows || document.activeElement === document.body))
          seen.current?.focus({ preventScroll: !shows });
      },
    });
  };
  return (
    <>
      <div className="flex flex-wrap items-start gap-4">
        <Slip play={play} />
        <Stack play={play} />
      </div>
      {play.afterwards && <Afterwards play={play} after={play.afterwards} />}
      <div className="grid grid-cols-[minmax(0,1fr)_24rem] items-start gap-5 max-[60rem]:grid-cols-1">
        <div className="flex min-w-0 flex-col gap-4">
          <SeenStep play={play} step={shown} title={seen} />
          <Log play={play} shown={shown} open={setOpened} />
        </div>
        {!play.end && (
          <div className="flex flex-col gap-4">
            {GROUPS.map(([name, kinds]) => (
              <Moves
                key={name}
                name={name}
                moves={play.moves.filter((one) => kinds.includes(one.kind))}
                play={play}
                busy={move.isPending}
                make={make}
              />
            ))}
            {asked ? (
              <p className="panel flex flex-wrap items-center gap-2 p-3 text-sm">
                Give it up? You see what it was, and the lesson comes back tomorrow.
                <Button onClick={() => giveUp.mutate()}>Give up</Button>
                <Button look="bare" onClick={() => setAsked(false)}>
                  Go on
                </Button>
              </p>
            ) : (
              <Button look="bare" className="self-start" onClick={() => setAsked(true)}>
                Give up and see what it was
              </Button>
            )}
          </div>
        )}
      </div>
    </>
  );
}

/** The order, on a slip of paper. */
function Slip({ play }: { play: Play }) {
  return (
    <section
      aria-label="The order"
      className="panel max-w-2xl min-w-[min(24rem,100%)] flex-1 -rotate-[0.3deg] p-4 shadow-card"
    >
      <h1 className="font-head text-xl leading-tight font-bold">{play.title}</h1>
      <p className="mt-1">{play.aim}</p>
      <p className="mt-1 text-sm text-soft">{play.pieces} good pieces off one sheet, so that they match.</p>
      <p className="mt-2 border-t border-rule pt-2">
        <Explained text={play.told} />
      </p>
    </section>
  );
}

/** The sheets that are left, as a stack that shrinks; and the time. */
function Stack({ play }: { play: Play }) {
  return (
    <section
      aria-label="What is left"
      className="panel flex items-center gap-5 p-4"
      aria-live="polite"
      aria-atomic
    >
      <span className="flex flex-col gap-1">
        <svg width="76" height="58" viewBox="0 0 76 58" aria-hidden>
          {Array.from({ length: play.sheets }, (_, place) => (
            <rect
              key={place}
              x={4 + place * 4}
              y={10 - place * 3 + 6 * play.sheets}
              width="48"
              height="16"
              transform={`skewX(-12) translate(${8 + play.sheets * 2} ${-play.sheets})`}
              fill={place < play.sheets_left ? 'var(--paper)' : 'none'}
              stroke="var(--soft)"
              strokeDasharray={place < play.sheets_left ? undefined : '3 3'}
            />
          ))}
        </svg>
        <b>{sheetsWords(play.sheets_left)} left</b>
        {play.lies_printed && <span className="text-sm">and a printed one lies there</span>}
      </span>
      <span className="flex flex-col">
        <span className="figure text-2xl font-bold">{Math.round(play.minutes_left)}</span>
        <span className="text-sm">minutes left of {play.minutes}</span>
      </span>
      <span className="flex flex-col">
        <span className="figure text-2xl font-bold">
          {play.good}/{play.pieces}
        </span>
        <span className="text-sm">good on the best sheet</span>
      </span>
    </section>
  );
}

interface LogProps {
  play: Play;
  shown: number;
  open: (step: number) => void;
}

/** What was done so far, the newest first; a step with a picture can be looked at again. */
function Log({ play, shown, open }: LogProps) {
  if (play.steps.length === 0) return null;
  const places = play.steps.map((_, place) => place + 1).reverse();
  return (
    <section aria-label="What you did" className="panel p-4">
      <h2 className="mb-1 font-bold">What you did</h2>
      <ol className="flex flex-col divide-y divide-rule">
        {places.map((place) => {
          const step = play.steps[place - 1] as PlayStep;
          return (
            <li key={place} className="flex items-baseline gap-3 py-1.5 text-sm">
              <span className="figure w-14 shrink-0 text-right text-soft">{minutesWords(step.minutes)}</span>
              <span className="min-w-0 flex-1">
                {step.text} {step.told && <b>{step.told}</b>}
              </span>
              {step.shows.length > 0 && place !== shown && (
                <Button look="bare" className="shrink-0 px-2 py-0.5" onClick={() => open(place)}>
                  Look again
                </Button>
              )}
            </li>
          );
        })}
      </ol>
      {shown !== 0 && (
        <Button look="bare" className="mt-1 px-2 py-0.5" onClick={() => open(0)}>
          Look at the first sheet
        </Button>
      )}
    </section>
  );
}
