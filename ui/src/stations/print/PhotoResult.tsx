import type { PhotoCheck } from '../../api/photo';
import { useLogMisses } from '../../api/marks';
import type { Item } from '../../api/view';
import { Bead } from '../../kit/Bead';
import { Button } from '../../kit/Button';
import { usePhotoPointed } from './photoPointed';

const BEADS = { there: 'settled', missing: 'stop', pale: 'look', unseen: 'not-yet' } as const;
const ORDER = ['missing', 'pale', 'unseen', 'there'] as const;

interface Props {
  jobId: number;
  found: PhotoCheck;
  items: readonly Item[];
}

/** What the picture told, piece by piece, what is wrong first; the misses of cut pieces can be counted in. */
export function PhotoResult({ jobId, found, items }: Props) {
  const point = usePhotoPointed((state) => state.point);
  const log = useLogMisses(jobId);
  const name = (number: number) => items.find((one) => one.number === number)?.name ?? 'piece';
  const pieces = [...found.pieces].sort(
    (one, other) => ORDER.indexOf(one.state) - ORDER.indexOf(other.state),
  );
  return (
    <section aria-label="What the picture told" className="flex flex-col gap-2">
      <div role="status">
        <h3 className="font-head text-base leading-tight font-bold">{found.verdict}</h3>
      </div>
      {found.lines.map((line) => (
        <p key={line} className="text-sm">
          {line}
        </p>
      ))}
      {found.misses.length > 0 && (
        <Button onClick={() => log.mutate(found.misses)} disabled={log.isPending || log.isSuccess}>
          {log.isSuccess ? 'Counted in' : `Count ${found.misses.length} misses in`}
        </Button>
      )}
      <ul className="flex max-h-[52vh] flex-col overflow-y-auto" tabIndex={0} aria-label="Pieces">
        {pieces.map((piece) => (
          <li
            key={piece.placement}
            onPointerEnter={() => point(piece.placement)}
            onPointerLeave={() => point(null)}
            className="flex gap-2 border-t border-rule py-1.5"
          >
            <span className="pt-0.5">
              <Bead state={BEADS[piece.state]} label={piece.state} />
            </span>
            <span className="min-w-0 text-sm">
              <b>
                {piece.placement + 1}. {name(piece.item_number)}
              </b>
              <span className="block text-soft">{piece.words}</span>
            </span>
          </li>
        ))}
        {found.loose.map((piece, index) => (
          <li
            key={index}
            onPointerEnter={() => point(index)}
            onPointerLeave={() => point(null)}
            className="border-t border-rule py-1.5 text-sm"
          >
            <b>{name(piece.item_number)}</b>
            <span className="block text-soft">{piece.words}</span>
          </li>
        ))}
      </ul>
      <p className="text-sm text-soft">
        {found.loose.length > 0
          ? 'Red is where it was cut, blue dashes where the edge belongs by its print.'
          : 'A solid line: as planned. Dashes: look there.'}
      </p>
    </section>
  );
}
