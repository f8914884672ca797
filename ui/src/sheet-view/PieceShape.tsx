import { artUrl, type Finding, type Item } from '../api/client';

export type SheetMode = 'plan' | 'print' | 'cut' | 'marks';

interface Props {
  item: Item;
  mode: SheetMode;
  ground: string;
}

/** One design in its own frame, to be placed as often as it has copies. */
export function PieceShape({ item, mode, ground }: Props) {
  const box = item.picture_box;
  const clip = `clip-${item.number}`;
  return (
    <g id={`item-${item.number}`}>
      <clipPath id={clip}>
        <path d={item.edge_path} clipRule="evenodd" />
      </clipPath>
      {mode !== 'marks' && (
        <path
          d={item.edge_path}
          fillRule="evenodd"
          fill={item.colour ?? (mode === 'print' ? 'none' : ground)}
        />
      )}
      {mode !== 'marks' && (
        <image
          href={artUrl(item.art, 800)}
          x={box.x_mm}
          y={box.y_mm}
          width={box.width_mm}
          height={box.height_mm}
          preserveAspectRatio="none"
          clipPath={`url(#${clip})`}
          opacity={mode === 'cut' ? 0.25 : 1}
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

/** The places a finding is about, marked on one piece. */
export function Places({ finding, item }: { finding: Finding; item: Item }) {
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
