import { type Design, type Finding, pictureUrl } from '../api/client';

import { Picture } from './Picture';

export type SheetMode = 'plan' | 'print' | 'cut' | 'marks';

interface Props {
  jobId: number;
  item: Design;
  mode: SheetMode;
  ground: string;
  /** The stock shows through the print. */
  through?: boolean;
}

/** One design in its own frame, to be placed as often as it has copies. */
export function PieceShape({ jobId, item, mode, ground, through = false }: Props) {
  const clip = `clip-${item.number}`;
  return (
    <g id={`item-${item.number}`}>
      <clipPath id={clip}>
        <path d={item.edge_path} clipRule="evenodd" />
      </clipPath>
      {through && mode === 'plan' && <path d={item.edge_path} fillRule="evenodd" fill={ground} />}
      {mode !== 'marks' && <Border item={item} ground={mode === 'print' ? 'var(--d-paper)' : ground} />}
      {mode === 'plan' && item.bleed_path && (
        <path d={`${item.bleed_path} ${item.edge_path}`} fillRule="evenodd" fill="url(#stipple)" />
      )}
      {mode === 'print' && item.printed_box && (
        <Picture
          item={item}
          href={`/api/jobs/${jobId}/items/${item.number}/printed.png?look=${item.look}`}
          box={item.printed_box}
        />
      )}
      {mode !== 'marks' && !(mode === 'print' && item.printed_box) && (
        <Picture
          item={item}
          href={pictureUrl(item, 800)}
          box={item.picture_box}
          clip={clip}
          opacity={mode === 'cut' ? 0.25 : 1}
          through={through && mode === 'plan'}
        />
      )}
      {mode !== 'print' && (
        <>
          <path
            d={item.edge_path}
            fill="none"
            stroke="var(--d-paper)"
            strokeWidth="3.5"
            vectorEffect="non-scaling-stroke"
          />
          <path
            d={item.edge_path}
            fill="none"
            stroke="var(--d-edge)"
            strokeWidth="1.5"
            vectorEffect="non-scaling-stroke"
            opacity={mode === 'marks' ? 0.35 : 1}
          />
          {item.cut === 'through' && (
            // Cross stitches every 4 mm tell a through cut.
            <path
              d={item.edge_path}
              fill="none"
              stroke="var(--d-edge)"
              strokeWidth="2"
              strokeDasharray="0.35 3.65"
            />
          )}
        </>
      )}
    </g>
  );
}

/** The rings of a border, outermost first; bare ones in the colour of the stock. */
export function Border({ item, ground }: { item: Design; ground: string }) {
  return item.rings.map((ring, index) => (
    <path key={index} d={ring.path} fillRule="evenodd" fill={ring.colour ?? ground} />
  ));
}

/** Soft dots for what is printed past the edge; used by name as a fill. */
export function Stipple() {
  return (
    <pattern id="stipple" width="0.7" height="0.7" patternUnits="userSpaceOnUse">
      <circle cx="0.2" cy="0.2" r="0.13" fill="var(--d-ink)" opacity="0.55" />
      <circle cx="0.55" cy="0.55" r="0.13" fill="var(--d-ink)" opacity="0.55" />
    </pattern>
  );
}

/** The places a finding is about, marked on one piece. */
export function Places({ finding, item }: { finding: Finding; item: Design }) {
  const whole = finding.places.length === 0 ? [item.edge_box] : finding.places;
  return (
    <g fill="none" stroke="var(--d-look)" strokeWidth="2" strokeDasharray="4 3">
      {whole.map((place, index) => (
        <rect
          key={index}
          x={place.x_mm - 1}
          y={place.y_mm - 1}
          width={place.width_mm + 2}
          height={place.height_mm + 2}
          rx="1"
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </g>
  );
}
