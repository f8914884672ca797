import type { Changer } from '../../api/changes';
import type { Reading, Remedy } from '../../api/marks';

interface Props {
  reading: Reading;
  change: Changer;
  /** Shows what a set of remedies would do, or none to stop showing. */
  attempt: (remedies: Remedy[] | null) => void;
}

/** What helps, each with the chance once it is taken; the best first. */
export function Remedies({ reading, change, attempt }: Props) {
  const taken = reading.remedies.filter((one) => one.taken).map((one) => one.key);
  const toggled = (key: Remedy) =>
    taken.includes(key) ? taken.filter((one) => one !== key) : [...taken, key];
  if (!reading.remedies.length) {
    return <p className="text-sm text-soft">Nothing needs to be done, and nothing would help further.</p>;
  }
  return (
    <fieldset className="flex flex-col gap-2">
      <legend className="mb-1 font-head text-base font-bold">What helps</legend>
      {reading.remedies.map((one) => (
        <label
          key={one.key}
          className="flex cursor-pointer gap-2.5 rounded-[6px] border border-rule bg-paper p-2.5 has-checked:border-kingfisher"
          onPointerEnter={() => attempt(toggled(one.key))}
          onPointerLeave={() => attempt(null)}
        >
          <input
            type="checkbox"
            className="mt-1 size-4 shrink-0 accent-kingfisher"
            checked={one.taken}
            onFocus={() => attempt(toggled(one.key))}
            onBlur={() => attempt(null)}
            onChange={() =>
              change(
                {
                  label: one.taken ? `not: ${one.name.toLowerCase()}` : one.name.toLowerCase(),
                  changes: { 'marks.remedies': toggled(one.key) },
                },
                () => attempt(null),
              )
            }
          />
          <span className="min-w-0">
            <span className="flex items-baseline justify-between gap-2">
              <b className="leading-tight">{one.name}</b>
              <span className="figure shrink-0 font-bold text-kingfisher">
                {one.taken ? 'taken' : `${one.words} in 100`}
              </span>
            </span>
            <span className="block text-sm text-soft">{one.text}</span>
          </span>
        </label>
      ))}
    </fieldset>
  );
}
