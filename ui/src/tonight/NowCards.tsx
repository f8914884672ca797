import {
  type Evening,
  type EveningBatch,
  type EveningStep,
  type StepDoing,
  useDoStep,
  useReadLabel,
} from '../api/finish';
import { LabelField } from '../kit/LabelField';
import { clockTime, left, timeOf } from '../kit/clock';

interface Props {
  evening: Evening;
  now: Date;
  ringing: boolean;
}

const BIG =
  'flex w-full items-center justify-center rounded-[6px] border px-4 py-3.5 text-lg leading-tight font-bold disabled:opacity-60';

/** The step of now, large, with its check and its caution; beside it what rests meanwhile, and until when. */
export function NowCards({ evening, now, ringing }: Props) {
  const doing = useDoStep();
  const read = useReadLabel();
  const act = (batch: EveningBatch, step: EveningStep, what: StepDoing) =>
    doing.mutate({ number: batch.number, step: step.step, doing: what });
  const next = evening.next && find(evening, evening.next.batch, evening.next.step);
  const resting = evening.batches.flatMap((batch) =>
    batch.steps
      .filter((step) => !step.hands_on && (step.state === 'running' || step.state === 'over'))
      .map((step) => ({ batch, step })),
  );
  const allDone = evening.batches.every((batch) => batch.steps.every((step) => step.state === 'done'));
  const paused = evening.batches.flatMap((batch) =>
    batch.steps
      .filter((step) => step.state === 'paused' && step !== next?.step)
      .map((step) => ({ batch, step })),
  );
  return (
    <div className="grid grid-cols-[minmax(0,1.6fr)_minmax(0,1fr)] items-start gap-4 max-[52rem]:grid-cols-1 print:hidden">
      {next ? (
        <section
          aria-label="Now"
          className={`panel flex flex-col gap-2.5 p-5 ${ringing ? 'outline-[3px] outline-bracken' : ''}`}
        >
          <p className="flex justify-between gap-3 text-soft">
            <b className="text-ink">{next.batch.name}</b>
            <span className="figure">{until(next.step, now)}</span>
          </p>
          <h2 className="font-head text-2xl leading-tight font-bold">{next.step.name}</h2>
          <p className="text-lg leading-snug">{next.step.check}</p>
          {next.step.labels.map((label) => (
            <p key={label} className="font-bold text-bracken">
              {label}
            </p>
          ))}
          {next.step.cautions.map((caution) => (
            <p key={caution} className="border-l-[3px] border-rowan pl-2.5 font-bold">
              {caution}
            </p>
          ))}
          {next.step.unread.length > 0 && (
            <div className="flex max-w-md flex-col gap-2 border-l-[3px] border-bracken pl-2.5">
              <p className="font-bold">Read the label of your product first:</p>
              {next.step.unread.map((label) => (
                <LabelField
                  key={label.key}
                  label={label}
                  put={(value) =>
                    value !== null &&
                    read.mutate({ number: next.batch.number, figures: { [label.key]: value } })
                  }
                />
              ))}
            </div>
          )}
          {next.step.state === 'running' || next.step.state === 'over' ? (
            <div className="flex gap-3">
              <button
                type="button"
                className={`${BIG} border-kingfisher bg-kingfisher text-on-kingfisher`}
                disabled={doing.isPending}
                onClick={() => act(next.batch, next.step, 'end')}
              >
                It is done
              </button>
              {next.step.hands_on && (
                <button
                  type="button"
                  className={`${BIG} max-w-40 border-rule bg-paper`}
                  disabled={doing.isPending}
                  onClick={() => act(next.batch, next.step, 'pause')}
                >
                  Pause
                </button>
              )}
            </div>
          ) : (
            <button
              type="button"
              className={`${BIG} border-kingfisher bg-kingfisher text-on-kingfisher`}
              disabled={doing.isPending || next.step.unread.length > 0}
              onClick={() => act(next.batch, next.step, 'begin')}
            >
              {next.step.state === 'paused'
                ? 'I go on'
                : next.step.hands_on
                  ? 'I begin'
                  : next.step.greatest
                    ? 'It is in: the time runs'
                    : 'It rests from now'}
            </button>
          )}
          <Back evening={evening} act={act} />
        </section>
      ) : (
        <section aria-label="Now" className="panel p-5">
          <h2 className="font-head text-2xl font-bold">
            {allDone ? 'Everything is done.' : 'Your hands are free.'}
          </h2>
          {!allDone && <p>What is left only rests.</p>}
        </section>
      )}
      <section aria-label="Resting" className="flex flex-col gap-2">
        {paused.map(({ batch, step }) => (
          <div key={`${batch.number}.${step.step}`} className="panel p-3">
            <p className="truncate text-soft">{batch.name}</p>
            <b className="leading-tight">{step.name}</b>
            <p className="text-sm">paused</p>
            <button
              type="button"
              className="mt-1 text-sm font-bold text-kingfisher underline"
              onClick={() => act(batch, step, 'begin')}
            >
              I go on with it
            </button>
          </div>
        ))}
        {resting.length === 0 && <p className="text-sm text-soft">Nothing rests at the moment.</p>}
        {resting.map(({ batch, step }) => (
          <div
            key={`${batch.number}.${step.step}`}
            className={`panel p-3 ${step.state === 'over' ? 'border-bracken' : ''}`}
          >
            <p className="flex justify-between gap-3">
              <span className="truncate text-soft">{batch.name}</span>
              <span className="figure shrink-0 text-lg font-bold" role="timer">
                {timeOf(step.ends) <= now
                  ? step.greatest
                    ? 'take it out'
                    : 'time is up'
                  : left(timeOf(step.ends).getTime() - now.getTime())}
              </span>
            </p>
            <b className="leading-tight">{step.name}</b>
            <p className="text-sm">{step.check}</p>
            {step.watched && (
              <p className="text-sm font-bold">It is hot: stay near, and be back when it rings.</p>
            )}
            <button
              type="button"
              className="mt-1 text-sm font-bold text-kingfisher underline"
              onClick={() => act(batch, step, 'end')}
            >
              {step.greatest ? 'It is out' : 'The check is right: done'}
            </button>
          </div>
        ))}
      </section>
    </div>
  );
}

function find(evening: Evening, number: number, step: number) {
  const batch = evening.batches.find((one) => one.number === number);
  const found = batch?.steps.find((one) => one.step === step);
  return batch && found ? { batch, step: found } : null;
}

function until(step: EveningStep, now: Date) {
  if (step.state === 'running' || step.state === 'over')
    return `${left(timeOf(step.ends).getTime() - now.getTime())} left`;
  const wait = timeOf(step.starts).getTime() - now.getTime();
  return wait > 60_000 ? `at ${clockTime(step.starts)}, in ${left(wait)}` : 'now';
}

/** Take the last press back. */
function Back({
  evening,
  act,
}: {
  evening: Evening;
  act: (batch: EveningBatch, step: EveningStep, what: StepDoing) => void;
}) {
  const touched = evening.batches
    .map((batch) => ({ batch, step: batch.steps.findLast((one) => one.state !== 'to-come' && one.hands_on) }))
    .filter((one): one is { batch: EveningBatch; step: EveningStep } => one.step !== undefined)
    .sort((one, other) => timeOf(other.step.ends).getTime() - timeOf(one.step.ends).getTime())[0];
  if (!touched) return null;
  return (
    <button
      type="button"
      className="self-start text-sm underline"
      onClick={() => act(touched.batch, touched.step, 'undo')}
    >
      Take back: {touched.batch.name}, {touched.step.name}
    </button>
  );
}
