import { type Outcome, resultUrl } from '../../api/twin';
import type { Schemas } from '../../api/client';
import type { Plan } from '../../api/view';

interface Props {
  jobId: number;
  outcome: Outcome;
  sheet: number;
  there: Schemas['TwinSheetOut'];
  plan: Plan;
  /** How much of the width, from the left, still shows the plan. */
  share: number;
  pxPerMm: number;
  chosen: number | null;
}

const FINE_PPI = 300;
const USUAL_PPI = 150;
// Closer than this the usual picture shows its pixels.
const CLOSE_PX_A_MM = 8;

/** The result over the plan, from the slider's place to the right; spoiled pieces are ringed. */
export function ResultOver(props: Props) {
  const { jobId, outcome, sheet, there, plan, share, pxPerMm, chosen } = props;
  const { width_mm: width, height_mm: height } = plan;
  const from = width * share;
  const ppi = pxPerMm > CLOSE_PX_A_MM ? FINE_PPI : USUAL_PPI;
  const spoiled = there.pieces.filter((piece) => piece.spoiled);
  return (
    <g>
      <clipPath id="result-part">
        <rect x={from} y={-1} width={Math.max(0, width - from) + 1} height={height + 2} />
      </clipPath>
      <g clipPath="url(#result-part)">
        <image
          href={resultUrl(jobId, outcome.number, sheet, ppi)}
          width={width}
          height={height}
          preserveAspectRatio="none"
        />
        {spoiled.map(({ placement, path }) => (
          <path
            key={placement}
            d={path}
            fill={placement === chosen ? 'var(--d-stop)' : 'none'}
            fillOpacity={0.12}
            stroke="var(--d-stop)"
            strokeWidth={placement === chosen ? 3.5 : 1.4}
            strokeDasharray={placement === chosen ? undefined : '4 3'}
            vectorEffect="non-scaling-stroke"
          />
        ))}
      </g>
      {share > 0 && share < 1 && (
        <line
          x1={from}
          x2={from}
          y1={0}
          y2={height}
          stroke="var(--d-edge)"
          strokeWidth="2"
          vectorEffect="non-scaling-stroke"
        />
      )}
    </g>
  );
}
