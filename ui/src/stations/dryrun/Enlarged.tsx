import { type Outcome, resultUrl, type TwinPiece } from '../../api/twin';
import { Button } from '../../kit/Button';
import { asSentence } from '../../kit/words';
import { around } from './Spoiled';

const PPI = 300;
// This one is there already, and is shown until the fine one has come.
const COARSE_PPI = 150;

interface Props {
  jobId: number;
  outcome: Outcome;
  sheet: number;
  piece: TwinPiece;
  name: string;
  close: () => void;
}

/** One piece of the result, large, with what became of it. */
export function Enlarged({ jobId, outcome, sheet, piece, name, close }: Props) {
  const cause = outcome.causes.find((one) => one.cause === piece.spoiled);
  return (
    <section
      aria-label={`${name}, enlarged`}
      className="panel absolute bottom-3 left-3 z-20 w-[min(21rem,80%)] p-3 shadow-card"
      onKeyDown={(event) => event.key === 'Escape' && close()}
    >
      <div className="mb-2 flex items-start justify-between gap-2">
        <h2 className="font-head text-base leading-tight font-bold">
          {name}
          {cause && <span className="block text-sm font-normal text-rowan">{cause.name}</span>}
        </h2>
        <Button look="bare" onClick={close}>
          Close
        </Button>
      </div>
      <img
        src={resultUrl(jobId, outcome.number, sheet, PPI, around(piece.box))}
        alt={`${name} as it came out`}
        className="h-52 w-full rounded-[4px] bg-tray bg-contain bg-center bg-no-repeat object-contain"
        style={{
          backgroundImage: `url("${resultUrl(jobId, outcome.number, sheet, COARSE_PPI, around(piece.box))}")`,
        }}
      />
      {cause && <p className="mt-2 text-sm">{cause.words}</p>}
      <p className="mt-1 text-sm text-soft">In all runs: {asSentence(piece.words)}</p>
    </section>
  );
}
