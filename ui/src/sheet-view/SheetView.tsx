import type { ReactNode } from 'react';

import type { Plan } from '../api/client';
import { useLook } from '../app/look';
import { PieceShape, Places, type SheetMode, Stipple } from './PieceShape';
import { Rulers } from './Rulers';
import { useSize } from './useSize';

interface Props {
  jobId: number;
  plan: Plan;
  sheet: number;
  mode: SheetMode;
  /** Drawn over the sheet, in its frame. */
  children?: ReactNode;
}

const RULER_PX = 34;
const RIM_PX = 14;

/** One sheet at true proportion, paper on a table, with rulers. */
export function SheetView({ jobId, plan, sheet, mode, children }: Props) {
  const [ref, room] = useSize<HTMLDivElement>();
  const finding = useLook((state) => state.finding);
  const { width_mm: width, height_mm: height } = plan;
  const scale = Math.max(
    0.1,
    Math.min((room.width - RULER_PX - RIM_PX) / width, (room.height - RULER_PX - RIM_PX) / height),
  );
  const ruler = RULER_PX / scale;
  const rim = RIM_PX / scale;
  const box = [-ruler, -ruler, width + ruler + rim, height + ruler + rim] as const;
  const placements = plan.sheets[sheet]?.placements ?? [];
  const printed = mode === 'print';
  // Only the files are mirrored; the print screen shows them as they are.
  const turnedOver = printed && plan.mirror ? `translate(${width} 0) scale(-1 1)` : undefined;
  return (
    <div ref={ref} className="drawing absolute inset-0 flex items-center justify-center overflow-hidden">
      {room.width > 0 && (
        <svg
          width={box[2] * scale}
          height={box[3] * scale}
          viewBox={box.join(' ')}
          role="img"
          aria-label={`Sheet ${sheet + 1}: ${placements.length} pieces on ${width} × ${height} mm`}
          data-testid="sheet"
          data-pieces={placements.length}
        >
          <rect
            width={width}
            height={height}
            fill={printed ? 'var(--d-paper)' : 'var(--d-off)'}
            style={{ filter: 'drop-shadow(0 2px 5px rgb(34 38 46 / 0.25))' }}
          />
          {!printed && (
            <path
              d={plan.live_path}
              fill="var(--d-paper)"
              stroke="var(--d-rule)"
              strokeWidth="1"
              vectorEffect="non-scaling-stroke"
            />
          )}
          <Rulers width={width} height={height} mmPerPx={1 / scale} />
          <defs>
            <Stipple />
            {plan.items.map((item) => (
              <PieceShape
                key={item.number}
                jobId={jobId}
                item={item}
                mode={mode}
                ground={plan.stock.colour}
              />
            ))}
          </defs>
          <g transform={turnedOver}>
            {placements.map((placement, index) => (
              <g
                key={index}
                transform={`translate(${placement.x_mm} ${placement.y_mm}) rotate(${placement.turn_deg})`}
              >
                <use href={`#item-${placement.item_number}`} />
              </g>
            ))}
            {finding?.item_number != null &&
              placements
                .filter((placement) => placement.item_number === finding.item_number)
                .map((placement, index) => {
                  const item = plan.items.find((one) => one.number === placement.item_number);
                  return (
                    item && (
                      <g
                        key={index}
                        transform={`translate(${placement.x_mm} ${placement.y_mm}) rotate(${placement.turn_deg})`}
                      >
                        <Places finding={finding} item={item} />
                      </g>
                    )
                  );
                })}
          </g>
          <g fill="var(--d-ink)" fillRule="evenodd">
            {plan.marks.map((mark, index) => (
              <path key={index} d={mark.path} />
            ))}
          </g>
          {children}
        </svg>
      )}
    </div>
  );
}
