import type { Pieces } from '../../api/finish';

type Press = NonNullable<Pieces['press']>;

/** Where iron or press is set down on each design, in order. */
export function PressScreen({ press, cloth }: { press: Press; cloth: Pieces['cloth'] }) {
  return (
    <div className="flex flex-col gap-4 p-5">
      <header className="flex flex-wrap items-center justify-between gap-3">
        <h2 className="font-head text-xl font-bold">Where to press</h2>
      </header>
      <ul className="flex flex-col gap-1 text-sm">
        {press.lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(17rem,1fr))] gap-4">
        {cloth?.picture && (
          <li>
            <figure className="flex flex-col gap-1.5">
              <svg
                viewBox={cloth.picture.box.join(' ')}
                className="drawing h-64 w-full"
                role="img"
                aria-label="The motif on its panel"
              >
                <path
                  d={cloth.picture.panel}
                  fill="var(--d-paper)"
                  stroke="var(--d-soft)"
                  strokeWidth="1.3"
                  vectorEffect="non-scaling-stroke"
                />
                <line
                  x1="0"
                  x2="0"
                  y1="0"
                  y2={(cloth.picture.box[1] ?? 0) + (cloth.picture.box[3] ?? 0)}
                  stroke="var(--d-look)"
                  strokeDasharray="5 4"
                  strokeWidth="1.2"
                  vectorEffect="non-scaling-stroke"
                />
                <path d={cloth.picture.motifs} fill="var(--d-edge)" fillOpacity="0.75" fillRule="evenodd" />
              </svg>
              <figcaption className="text-sm">
                <b>On the panel</b>; the dashed line is the fold.
              </figcaption>
            </figure>
          </li>
        )}
        {press.designs.map((design) => (
          <li key={design.number}>
            <figure className="flex flex-col gap-1.5">
              <svg
                viewBox={design.box.join(' ')}
                className="drawing h-64 w-full"
                role="img"
                aria-label={`${design.name}: ${design.words}`}
              >
                <path
                  d={design.edge}
                  fill="#fff"
                  fillRule="evenodd"
                  stroke="var(--d-edge)"
                  strokeWidth="1.3"
                  vectorEffect="non-scaling-stroke"
                />
                <path d={design.drawing} fill="var(--d-edge)" fillOpacity="0.35" fillRule="evenodd" />
                {design.patches.map((patch, place) => (
                  <g key={place}>
                    <rect
                      x={patch.x_mm}
                      y={patch.y_mm}
                      width={patch.width_mm}
                      height={patch.height_mm}
                      fill="var(--d-look)"
                      fillOpacity="0.12"
                      stroke="var(--d-look)"
                      strokeWidth="1.4"
                      vectorEffect="non-scaling-stroke"
                    />
                    <text
                      x={patch.x_mm + patch.width_mm / 2}
                      y={patch.y_mm + patch.height_mm / 2}
                      fontSize={Math.max(design.box[2] ?? 100, design.box[3] ?? 100) / 14}
                      fontWeight="700"
                      textAnchor="middle"
                      dominantBaseline="central"
                      fill="var(--d-ink)"
                    >
                      {place + 1}
                    </text>
                  </g>
                ))}
              </svg>
              <figcaption className="text-sm">
                <b>{design.name}</b> {design.words}
              </figcaption>
            </figure>
          </li>
        ))}
      </ul>
    </div>
  );
}
