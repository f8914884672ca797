import { useState } from 'react';

import { useArrows, useCalibration, useMisses } from '../../api/marks';
import type { Plan } from '../../api/view';
import { Button } from '../../kit/Button';
import { showLength, useUnit } from '../../kit/units';
import { lying, SheetView } from '../../look/SheetView';
import { timesAsFar } from './arrows';

interface Props {
  jobId: number;
  plan: Plan;
  sheet: number;
}

/** Where cuts land: the miss that 95 of 100 stay under as shades over the sheet, and piece by piece. */
export function MissMap({ jobId, plan, sheet }: Props) {
  const misses = useMisses(jobId, plan.packing.layout).data;
  const unit = useUnit((state) => state.unit);
  const [over, setOver] = useState<number | null>(null);
  const each = misses?.sheets[sheet] ?? [];
  const [least, most] = misses ? [Math.min(...misses.map_mm), Math.max(...misses.map_mm)] : [0, 1];
  const shade = (value: number) =>
    0.07 + (most - least > 0.005 ? (0.4 * (value - least)) / (most - least) : 0);
  const [wide, high] = misses ? [plan.width_mm / misses.columns, plan.height_mm / misses.rows] : [0, 0];
  const miss = over === null ? undefined : each[over];
  return (
    <SheetView
      jobId={jobId}
      plan={plan}
      sheet={sheet}
      mode="marks"
      bar={
        <p className="text-sm" role="status">
          {miss === undefined
            ? 'Point at a piece, or move to it by Tab, to see how far off its cut may be.'
            : `Piece ${(over ?? 0) + 1}: 95 of 100 are cut less than ${showLength(miss, unit, 2)} off.`}
        </p>
      }
      pieces={() => (
        <g>
          {misses?.map_mm.map((value, index) => (
            <rect
              key={index}
              x={(index % misses.columns) * wide}
              y={Math.floor(index / misses.columns) * high}
              width={wide + 0.05}
              height={high + 0.05}
              fill="var(--d-look)"
              opacity={shade(value)}
              pointerEvents="none"
            />
          ))}
          {(plan.sheets[sheet]?.placements ?? []).map((placement, index) => (
            <use
              key={index}
              href={`#item-${placement.item_number}`}
              transform={lying(placement)}
              tabIndex={0}
              role="img"
              pointerEvents="bounding-box"
              aria-label={`Piece ${index + 1}: ${each[index] === undefined ? '' : showLength(each[index], unit, 2)}`}
              style={{ outline: 'none', opacity: over === index ? 1 : 0.75 }}
              onPointerEnter={() => setOver(index)}
              onPointerLeave={() => setOver(null)}
              onFocus={() => setOver(index)}
              onBlur={() => setOver(null)}
            />
          ))}
        </g>
      )}
    >
      {(pxPerMm) => <Arrows jobId={jobId} pxPerMm={pxPerMm} />}
    </SheetView>
  );
}

/** Where uncorrected cuts land from the print, much larger than they are. */
function Arrows({ jobId, pxPerMm }: { jobId: number; pxPerMm: number }) {
  const arrows = useArrows(jobId).data ?? [];
  const times = timesAsFar(arrows);
  return (
    <g stroke="var(--d-edge)" fill="var(--d-edge)" strokeWidth={1.6 / pxPerMm}>
      {arrows.map(({ x_mm, y_mm, dx_mm, dy_mm }, index) => (
        <g key={index}>
          <circle cx={x_mm} cy={y_mm} r={2.2 / pxPerMm} />
          <line x1={x_mm} y1={y_mm} x2={x_mm + dx_mm * times} y2={y_mm + dy_mm * times} />
        </g>
      ))}
    </g>
  );
}

/** What the miss is made of, and what three marks would make of it. */
export function MissWords({ jobId, plan, calibrate }: Omit<Props, 'sheet'> & { calibrate: () => void }) {
  const misses = useMisses(jobId, plan.packing.layout).data;
  const arrows = useArrows(jobId).data ?? [];
  const due = useCalibration(jobId).data?.due;
  const unit = useUnit((state) => state.unit);
  if (!misses) return null;
  const times = timesAsFar(arrows);
  return (
    <section aria-label="How far off" className="flex flex-col gap-2.5">
      <h2 className="font-head text-lg leading-tight font-bold">
        95 of 100 are less than {showLength(misses.worst_mm, unit, 2)} off
      </h2>
      <p className="text-sm text-soft">
        {misses.starter
          ? 'Nothing was measured on these machines yet; this is what is usual. A calibration sheet tells, and corrects it.'
          : `At the worst place of the sheet. Borders under it may be bitten; from ${showLength(misses.even_from_mm, unit)} on a miss is not seen. Bleed follows.`}
      </p>
      <table className="w-full text-sm">
        <thead>
          <tr className="text-left text-soft">
            <th className="font-normal">made of</th>
            <th className="text-right font-normal">usual (σ)</th>
          </tr>
        </thead>
        <tbody>
          {misses.parts.map((part) => (
            <tr key={part.name} className="border-t border-rule">
              <td className="py-1">{part.name}</td>
              <td className="figure text-right">{showLength(part.sigma_mm, unit, 2)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {misses.with_three_mm !== null && misses.with_four_mm !== null && (
        <p className="text-sm">
          With <b>4 marks</b> {showLength(misses.with_four_mm, unit, 2)} at worst, with <b>3 marks</b>{' '}
          {showLength(misses.with_three_mm, unit, 2)}, at the corner without one.
        </p>
      )}
      {misses.runs > 0 && (
        <p className="text-sm">
          {misses.runs} measured {misses.runs === 1 ? 'piece counts' : 'pieces count'} in; before them, the
          usual counts as five.
        </p>
      )}
      {arrows.length > 0 && (
        <p className="text-sm">
          The arrows show where uncorrected cuts would land, {times} times as far off. Cut files are corrected
          for it; what is drawn here stays as planned.
        </p>
      )}
      {due && <p className="text-sm font-bold text-bracken">{due}</p>}
      <Button onClick={calibrate}>Calibrate these machines</Button>
    </section>
  );
}
