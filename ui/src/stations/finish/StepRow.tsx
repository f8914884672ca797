import type { FinishStep } from '../../api/finish';
import { Explained } from '../../look/Explained';

interface Props {
  step: FinishStep;
  number: number;
  /** The longest step, to draw the others beside. */
  longest: number;
}

/** One step: what to do, how long, what ends it, what its label must say, what can hurt. */
export function StepRow({ step, number, longest }: Props) {
  const share = Math.max(0.01, step.minutes / longest);
  return (
    <li className="grid grid-cols-[1.75rem_minmax(0,1fr)_9rem] gap-x-3 border-t border-rule py-2.5 max-[60rem]:grid-cols-[1.75rem_minmax(0,1fr)]">
      <span className="figure text-soft">{number}</span>
      <div className="flex min-w-0 flex-col gap-0.5">
        <b className="leading-tight">
          {step.do}
          {step.times > 1 && <span className="font-normal text-soft"> · {step.times} times</span>}
        </b>
        <span className="text-sm">
          <Explained text={step.check} />
        </span>
        {step.labels.map((label) => (
          <span key={label} className="text-sm text-bracken">
            {label}
          </span>
        ))}
        {step.cautions.map((caution) => (
          <span key={caution} className="border-l-[3px] border-rowan pl-2 text-sm font-bold">
            {caution}
          </span>
        ))}
      </div>
      <div className="flex flex-col gap-1 max-[60rem]:col-start-2 max-[60rem]:mt-1">
        <span className="figure text-sm">
          {step.takes}
          <span className="text-soft">
            {' '}
            {step.hands_on ? 'by hand' : step.watched ? 'stay near' : 'rest'}
          </span>
        </span>
        <span aria-hidden className="h-2 w-full overflow-hidden rounded-full bg-tray">
          <span
            className={`block h-full ${step.hands_on ? 'bg-kingfisher' : 'bg-rule'}`}
            style={{ width: `${share * 100}%` }}
          />
        </span>
        {(step.places.length > 0 || step.within !== null || step.most) && (
          <span className="text-sm text-soft">
            {[
              step.places.length ? `takes the ${step.places.join(', ')}` : '',
              step.within !== null ? `within ${step.within} min` : '',
              step.most ? `${step.most} at most` : '',
            ]
              .filter(Boolean)
              .join('; ')}
          </span>
        )}
      </div>
    </li>
  );
}
