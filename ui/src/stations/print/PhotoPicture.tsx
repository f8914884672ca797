import { type PhotoCheck, photoUrl } from '../../api/photo';
import type { Item } from '../../api/view';
import { usePhotoPointed } from './photoPointed';

const LINES = {
  there: 'var(--d-edge)',
  missing: 'var(--d-stop)',
  pale: 'var(--d-look)',
  unseen: 'var(--d-soft)',
} as const;

interface Props {
  jobId: number;
  found: PhotoCheck;
  items: readonly Item[];
}

/** The picture, straight, with the plan over it: solid where a piece is as it should be, dashed where it is not. */
export function PhotoPicture({ jobId, found, items }: Props) {
  const pointed = usePhotoPointed((state) => state.at);
  const name = (number: number) => items.find((one) => one.number === number)?.name ?? 'piece';
  return (
    <svg
      viewBox={`0 0 ${found.width_mm} ${found.height_mm}`}
      className="drawing max-h-[70vh] w-full rounded-[4px] border border-rule"
      role="img"
      aria-label={`The picture with the plan over it: ${found.verdict}`}
    >
      <image
        href={photoUrl(jobId, found.number)}
        width={found.width_mm}
        height={found.height_mm}
        preserveAspectRatio="none"
      />
      {found.pieces.map((piece) => (
        <path
          key={piece.placement}
          d={piece.path}
          fill={pointed === piece.placement ? LINES[piece.state] : 'none'}
          fillOpacity={0.25}
          fillRule="evenodd"
          stroke={LINES[piece.state]}
          strokeWidth={piece.state === 'there' ? 1.2 : 2.6}
          strokeDasharray={piece.state === 'there' ? undefined : '6 4'}
          vectorEffect="non-scaling-stroke"
        >
          <title>{`${name(piece.item_number)}: ${piece.words}`}</title>
        </path>
      ))}
      {found.loose.map((piece, index) => (
        <g key={index}>
          <path
            d={piece.path}
            fill={pointed === index ? 'var(--d-stop)' : 'none'}
            fillOpacity={0.2}
            stroke="var(--d-stop)"
            strokeWidth="1.4"
            vectorEffect="non-scaling-stroke"
          >
            <title>{`${name(piece.item_number)}: ${piece.words}`}</title>
          </path>
          <path
            d={piece.edge_path}
            fill="none"
            stroke="var(--d-edge)"
            strokeWidth="1.4"
            strokeDasharray="4 3"
            vectorEffect="non-scaling-stroke"
          />
        </g>
      ))}
    </svg>
  );
}
