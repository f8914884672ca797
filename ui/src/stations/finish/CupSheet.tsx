import type { OnCup } from '../../api/finish';
import { PieceRings } from './PieceRings';

/** What the wall unrolls to, and the piece on it as the sheet packs it. */
export function CupSheet({ cup, dimension }: { cup: OnCup; dimension: 'around' | 'up' | null }) {
  const { box, wall, edge, drawing } = cup.flat;
  return (
    <svg
      viewBox={box.join(' ')}
      className="drawing h-[min(36vh,18rem)] w-full"
      role="img"
      aria-label={`The wall laid flat: ${cup.kind === 'cylinder' ? 'a rectangle' : 'part of a ring'}`}
    >
      <path
        d={wall}
        fill="var(--d-paper)"
        stroke="var(--d-soft)"
        strokeDasharray="5 4"
        strokeWidth="1.2"
        vectorEffect="non-scaling-stroke"
      />
      <path
        d={cup.flat.handle}
        fill="var(--d-off)"
        stroke="var(--d-soft)"
        strokeWidth="1.2"
        vectorEffect="non-scaling-stroke"
      />
      <PieceRings edge={edge} drawing={drawing} measure={dimension && cup.flat[dimension]} />
    </svg>
  );
}
