import { type Evening, type EveningBatch, type EveningStep, useRemoveBatch } from '../api/finish';
import { Button } from '../kit/Button';
import { clockTime, timeOf } from '../kit/clock';

const ROW = 34;
const TICKS = [5, 10, 15, 30, 60, 120, 240] as const;
const MOST_TICKS = 12;
const DONE = 'opacity-45';

interface Props {
  evening: Evening;
  now: Date;
}

/** The hours as lanes: the person's on top, then every batch; the clock is a hairline. */
export function Lanes({ evening, now }: Props) {
  const remove = useRemoveBatch();
  const from = timeOf(evening.starts).getTime();
  const end = Math.max(timeOf(evening.ends ?? evening.starts).getTime(), now.getTime());
  const minutes = Math.max(10, (end - from) / 60_000);
  const at = (time: string | number | Date) => ((new Date(time).getTime() - from) / 60_000 / minutes) * 100;
  const every = TICKS.find((one) => minutes / one <= MOST_TICKS) ?? 480;
  const ticks = tickTimes(from, end, every);
  const hands = evening.batches.flatMap((batch) =>
    batch.steps.filter((step) => step.hands_on).map((step) => ({ batch, step })),
  );
  return (
    <section aria-label="The hours as lanes" className="panel overflow-x-auto p-3 print:hidden" tabIndex={0}>
      <div className="min-w-[52rem]">
        <div className="relative ml-48 h-5">
          {ticks.map((tick) => (
            <span
              key={tick}
              className="figure absolute -translate-x-1/2 text-sm text-soft"
              style={{ left: `${at(tick)}%` }}
            >
              {clockTime(new Date(tick).toString())}
            </span>
          ))}
        </div>
        <div className="relative">
          <Lane name="Your hands" bold>
            {evening.away.map((away) => (
              <span
                key={away.begins}
                title="away"
                className="absolute inset-y-0 bg-[repeating-linear-gradient(45deg,var(--rule)_0_2px,transparent_2px_7px)]"
                style={{ left: `${at(away.begins)}%`, width: `${at(away.ends) - at(away.begins)}%` }}
              />
            ))}
            {hands.map(({ batch, step }) => (
              <Block key={`${batch.number}.${step.step}`} batch={batch} step={step} at={at} />
            ))}
          </Lane>
          {evening.batches.map((batch) => (
            <Lane
              key={batch.number}
              name={batch.name}
              act={
                <Button
                  look="bare"
                  className="px-1 py-0 text-soft"
                  aria-label={`Take ${batch.name} out of the evening`}
                  onClick={() => remove.mutate(batch.number)}
                >
                  ×
                </Button>
              }
            >
              {batch.steps.map((step) => (
                <Block key={step.step} batch={batch} step={step} at={at} />
              ))}
            </Lane>
          ))}
          <span aria-hidden className="pointer-events-none absolute inset-y-0 right-0 left-48">
            {ticks.map((tick) => (
              <span
                key={tick}
                className="absolute inset-y-0 w-px bg-rule opacity-60"
                style={{ left: `${at(tick)}%` }}
              />
            ))}
            <span
              className="absolute -inset-y-1 w-[2px] bg-rowan"
              style={{ left: `${Math.min(100, Math.max(0, at(now)))}%` }}
            />
          </span>
        </div>
        <p className="mt-2 flex flex-wrap gap-x-5 text-sm text-soft">
          <Key className="border-kingfisher bg-kingfisher" words="by hand" />
          <Key className="border-rule bg-tray" words="rests" />
          <Key className="border-rowan bg-paper" words="later than it should be" />
          <span>red line: now</span>
        </p>
      </div>
    </section>
  );
}

function Lane({
  name,
  bold = false,
  act,
  children,
}: {
  name: string;
  bold?: boolean;
  act?: React.ReactNode;
  children: React.ReactNode;
}) {
  return (
    <div className="flex border-t border-rule" style={{ height: ROW }}>
      <span className={`flex w-48 shrink-0 items-center gap-1 pr-2 text-sm ${bold ? 'font-bold' : ''}`}>
        <span className="min-w-0 flex-1 truncate">{name}</span>
        {act}
      </span>
      <span className="relative my-[5px] min-w-0 flex-1">{children}</span>
    </div>
  );
}

function Block({
  batch,
  step,
  at,
}: {
  batch: EveningBatch;
  step: EveningStep;
  at: (time: string) => number;
}) {
  const wide = at(step.ends) - at(step.starts);
  const look = step.too_late
    ? 'border-rowan border-2 bg-paper'
    : step.hands_on
      ? 'border-paper bg-kingfisher text-on-kingfisher'
      : 'border-rule bg-tray';
  return (
    <span
      className={`absolute inset-y-0 overflow-hidden rounded-[3px] border px-1 text-sm leading-[1.35rem] whitespace-nowrap ${look} ${step.state === 'done' ? DONE : ''}`}
      style={{ left: `${at(step.starts)}%`, width: `max(3px, ${wide}%)` }}
      title={`${batch.name}: ${step.name}, ${clockTime(step.starts)} to ${clockTime(step.ends)}`}
    >
      {wide > 9 ? step.name : ''}
    </span>
  );
}

function Key({ className, words }: { className: string; words: string }) {
  return (
    <span className="flex items-center gap-1.5">
      <span aria-hidden className={`inline-block h-3 w-5 rounded-[2px] border ${className}`} />
      {words}
    </span>
  );
}

/** Round times between two, so many minutes apart. */
function tickTimes(from: number, end: number, every: number) {
  const first = new Date(from);
  first.setMinutes(Math.ceil(first.getMinutes() / Math.min(every, 60)) * Math.min(every, 60), 0, 0);
  const found: number[] = [];
  for (let time = first.getTime(); time <= end; time += every * 60_000) found.push(time);
  return found;
}
