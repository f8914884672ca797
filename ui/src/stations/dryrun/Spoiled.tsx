import { type Outcome, resultUrl } from '../../api/twin';
import type { Schemas } from '../../api/client';
import type { Item } from '../../api/view';
import { Button } from '../../kit/Button';

interface Props {
  jobId: number;
  outcome: Outcome;
  sheet: number;
  there: Schemas['TwinSheetOut'];
  items: readonly Item[];
  chosen: number | null;
  choose: (placement: number | null) => void;
}

// Round a piece, so that what is wrong at its rim is in sight.
const RIM_MM = 3;
const PPI = 150;

/** A piece's box with what lies round it. */
export const around = (box: Schemas['Place']) => ({
  x_mm: Math.max(0, box.x_mm - RIM_MM),
  y_mm: Math.max(0, box.y_mm - RIM_MM),
  width_mm: box.width_mm + 2 * RIM_MM,
  height_mm: box.height_mm + 2 * RIM_MM,
});

/** The spoiled pieces beside the sheet, sorted by what spoiled them. */
export function Spoiled({ jobId, outcome, sheet, there, items, chosen, choose }: Props) {
  const spoiled = there.pieces.filter((piece) => piece.spoiled).sort((one, other) => one.good - other.good);
  const worst = spoiled[0];
  const causes = outcome.causes.filter((cause) => spoiled.some((piece) => piece.spoiled === cause.cause));
  return (
    <div
      role="group"
      aria-label="Spoiled pieces in this run"
      tabIndex={0}
      className="flex w-[10.5rem] shrink-0 flex-col gap-2.5 overflow-y-auto border-l border-rule px-2.5 py-2"
    >
      <p className="text-sm leading-snug">
        {there.read ? (
          <>
            <b>
              {spoiled.length
                ? `${spoiled.length} of ${there.pieces.length} spoiled`
                : `All ${there.pieces.length} good`}
            </b>{' '}
            in the run that is shown
          </>
        ) : (
          <b>Nothing was cut: the marks were not read.</b>
        )}
      </p>
      {there.read && worst && (
        <Button onClick={() => choose(worst.placement)} className="self-start">
          Show the worst
        </Button>
      )}
      {there.read &&
        causes.map((cause) => (
          <section key={cause.cause} aria-label={cause.name}>
            <h2 className="mb-1 text-sm leading-tight font-bold">{cause.name}</h2>
            <ul className="grid grid-cols-2 gap-1.5">
              {spoiled
                .filter((piece) => piece.spoiled === cause.cause)
                .map((piece) => {
                  const name = items.find((item) => item.number === piece.item_number)?.name ?? 'piece';
                  return (
                    <li key={piece.placement}>
                      <button
                        type="button"
                        aria-pressed={piece.placement === chosen}
                        title={`${name}: ${piece.words}`}
                        onClick={() => choose(piece.placement === chosen ? null : piece.placement)}
                        className={`block w-full overflow-hidden rounded-[4px] border bg-paper ${
                          piece.placement === chosen
                            ? 'border-kingfisher outline-2 outline-kingfisher'
                            : 'border-rule'
                        }`}
                      >
                        <img
                          src={resultUrl(jobId, outcome.number, sheet, PPI, around(piece.box))}
                          alt={`${name}, ${cause.name.toLowerCase()}`}
                          loading="lazy"
                          className="h-16 w-full object-contain"
                        />
                      </button>
                    </li>
                  );
                })}
            </ul>
          </section>
        ))}
    </div>
  );
}
