import type { Plan } from '../api/view';
import { useLook } from './shown';

/** The row of sheets, each with its number of pieces. */
export function SheetRow({ plan }: { plan: Plan }) {
  const sheet = useSheet(plan);
  const showSheet = useLook((state) => state.showSheet);
  if (plan.sheets.length === 0) return null;
  return (
    <div className="flex min-w-0 gap-2 overflow-x-auto py-0.5" role="group" aria-label="Sheets">
      {plan.sheets.map((one, index) => (
        <button
          key={index}
          type="button"
          aria-pressed={index === sheet}
          data-sheet={index}
          title="a piece that is dropped here moves to this sheet"
          onClick={() => showSheet(index)}
          className={`flex h-14 w-11 shrink-0 flex-col items-center justify-center rounded-[4px] border bg-paper leading-tight ${
            index === sheet ? 'border-kingfisher shadow-[inset_0_0_0_1px_var(--kingfisher)]' : 'border-rule'
          }`}
        >
          <span className="font-bold">
            <span className="sr-only">Sheet </span>
            {index + 1}
          </span>
          <span className="figure text-soft">
            {one.placements.length}
            <span className="sr-only"> pieces</span>
          </span>
        </button>
      ))}
    </div>
  );
}

/** The sheet that is looked at; the last one where there are fewer now. */
export const useSheet = (plan: { sheets: readonly unknown[] }) =>
  Math.max(
    0,
    Math.min(
      useLook((state) => state.sheet),
      plan.sheets.length - 1,
    ),
  );
