import { useEffect, useRef } from 'react';
import { Link, useLocation } from 'wouter';

import { type Play, type PlayStep, useBeginPlay } from '../api/practise';
import { Button } from '../kit/Button';
import { asSentence } from '../kit/words';
import { Explained } from '../look/Explained';
import { useLearner } from './learner';
import { costWords, sheetsWords } from './figures';

const ENDS = {
  passed: 'The order is filled.',
  'no-sheets': 'The sheets are used up, and the order is not filled.',
  'no-time': 'The time is up, and the order is not filled.',
  'given-up': 'You gave it up.',
} as const;

interface Props {
  play: Play;
  after: NonNullable<Play['afterwards']>;
}

/** What was hidden, the learner's way and the best one as two lanes, and the sentence to keep. */
export function Afterwards({ play, after }: Props) {
  const [, go] = useLocation();
  const learner = useLearner((state) => state.learner);
  const begin = useBeginPlay((id) => go(`/practise/plays/${id}`));
  const best = after.best;
  const title = useRef<HTMLHeadingElement>(null);
  useEffect(() => title.current?.focus(), []);
  const most = Math.max(play.steps.at(-1)?.minutes_used ?? 0, best?.steps.at(-1)?.minutes_used ?? 0, 1);
  const parts = best ? partAt(play.steps, best.steps) : null;
  return (
    <section aria-label="Afterwards" className="panel flex flex-col gap-3 p-4">
      <h2 ref={title} tabIndex={-1} className="font-head text-xl font-bold outline-none">
        {play.end ? ENDS[play.end] : ''}
      </h2>
      <p>
        <b>What was wrong:</b> {after.hidden}
      </p>
      <p className="border-l-4 border-kingfisher pl-3 text-lg">
        <Explained text={after.keep} />
      </p>
      <Lane name="Your way" steps={play.steps} most={most} parts={parts} />
      {best && <Lane name="A good hand" steps={best.steps} most={most} parts={parts} />}
      {best && parts !== null && play.steps.length > 0 && (
        <p className="text-sm">
          {parts < play.steps.length || parts < best.steps.length
            ? parts === 0
              ? 'The ways part at the first move.'
              : `The ways part after “${play.steps[parts - 1]?.text}”.`
            : 'You went the way of a good hand.'}
        </p>
      )}
      {!best && !after.problem && (
        <p className="text-sm text-soft" role="status">
          Working out what a good hand would have done … {after.tried > 0 && `${after.tried} looks so far`}
        </p>
      )}
      {after.problem && <p className="text-sm text-rowan">{asSentence(after.problem)}</p>}
      <p className="flex flex-wrap items-center gap-3 text-sm">
        <Button
          look="act"
          disabled={begin.isPending}
          onClick={() => begin.mutate({ lesson: play.lesson, learner })}
        >
          Play it again
        </Button>
        <Link href="/practise" className="font-bold text-kingfisher underline">
          All lessons
        </Link>
        {after.back_in_days !== null && <span>It comes back tomorrow.</span>}
      </p>
    </section>
  );
}

/** How many moves both ways have in common, from the first. */
function partAt(mine: PlayStep[], best: PlayStep[]) {
  const differs = best.findIndex((step, place) => mine[place]?.code !== step.code);
  return differs < 0 ? best.length : differs;
}

interface LaneProps {
  name: string;
  steps: PlayStep[];
  most: number;
  parts: number | null;
}

/** Moves along the minutes; a move that makes sheets is filled, and says what came of it. */
function Lane({ name, steps, most, parts }: LaneProps) {
  const last = steps.at(-1);
  return (
    <div className="grid grid-cols-[7rem_minmax(0,1fr)] items-center gap-3 max-[40rem]:grid-cols-1">
      <span>
        <b className="block leading-tight">{name}</b>
        <span className="text-sm text-soft">
          {last ? costWords(last.minutes_used, 0) : 'no moves'}
          {last ? `, ${sheetsWords(last.sheets_used)}` : ''}
        </span>
      </span>
      <ol className="relative flex h-14 w-full items-stretch gap-0.5" aria-label={name}>
        {steps.map((step, place) => (
          <li
            key={place}
            title={`${step.text} ${step.told}`}
            className={`flex min-w-1.5 items-center overflow-hidden rounded-[3px] border px-1 text-xs leading-tight ${
              step.kind === 'make'
                ? 'border-kingfisher bg-kingfisher text-on-kingfisher'
                : 'border-rule bg-tray'
            } ${parts === place ? 'border-l-4 border-l-rowan' : ''}`}
            style={{ width: `${(step.minutes / most) * 100}%` }}
          >
            <span className="line-clamp-3">
              {step.text}
              <span className="sr-only"> {step.told}</span>
            </span>
          </li>
        ))}
      </ol>
    </div>
  );
}
