import type { Evening } from '../api/finish';
import { clockTime } from '../kit/clock';

/** The evening on paper: every step in the order of the clock, with a box to tick. */
export function RunSheet({ evening }: { evening: Evening }) {
  const steps = evening.batches
    .flatMap((batch) => batch.steps.map((step) => ({ batch, step })))
    .sort((one, other) => one.step.starts.localeCompare(other.step.starts));
  return (
    <section aria-label="Run sheet" className="hidden bg-white text-black print:block">
      <h1 className="font-head text-xl font-bold">Tonight at the bench</h1>
      <p>{evening.verdict}</p>
      <table className="mt-3 w-full text-left text-sm">
        <thead>
          <tr>
            {['', 'from', 'to', 'what', 'which', 'until'].map((head) => (
              <th key={head} scope="col" className="border-b py-1 pr-2">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {steps.map(({ batch, step }) => (
            <tr key={`${batch.number}.${step.step}`} className="break-inside-avoid border-b align-top">
              <td className="py-1 pr-2">☐</td>
              <td className="figure py-1 pr-2">{clockTime(step.starts)}</td>
              <td className="figure py-1 pr-2">{clockTime(step.ends)}</td>
              <td className={`py-1 pr-2 ${step.hands_on ? 'font-bold' : ''}`}>
                {step.name}
                {step.labels.map((label) => (
                  <span key={label} className="block font-normal">
                    {label}
                  </span>
                ))}
                {step.cautions.map((caution) => (
                  <span key={caution} className="block border-l-2 pl-1.5 font-bold">
                    {caution}
                  </span>
                ))}
              </td>
              <td className="py-1 pr-2">{batch.name}</td>
              <td className="py-1">{step.check}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-3 font-bold">{evening.always}</p>
    </section>
  );
}
