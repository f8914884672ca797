/** The outlines that a machine's own program will find in a picture, drawn over it where it is given. */
import type { Schemas } from '../../api/client';
import { showLength, useUnit } from '../../kit/units';

export function FoundPicture({ found, picture }: { found: Schemas['FoundCutOut']; picture?: string }) {
  const unit = useUnit((state) => state.unit);
  const { width_mm: width, height_mm: height } = found.size;
  return (
    <figure className="flex flex-col gap-1">
      <svg
        viewBox={`-2 -2 ${width + 4} ${height + 4}`}
        className={`drawing w-full rounded-[6px] border border-rule bg-tray ${picture ? 'max-h-[26rem]' : 'max-h-64'}`}
        role="img"
        aria-label={`${found.found} outlines, traced from the picture`}
      >
        {picture && <image href={picture} width={width} height={height} />}
        <path
          d={found.path}
          fill={picture ? 'none' : 'var(--d-paper)'}
          fillRule="evenodd"
          stroke="var(--d-edge)"
          strokeWidth="1.4"
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      <figcaption className={found.off_mm === null ? 'text-sm font-bold text-rowan' : 'text-sm'}>
        {found.off_mm === null
          ? `It will find ${found.found} outlines for ${found.planned} pieces: some run together. Lay them farther apart.`
          : `It will find ${found.found} of ${found.planned} outlines, at most ${showLength(found.off_mm, unit, 2)} from the planned edges.`}
      </figcaption>
    </figure>
  );
}
