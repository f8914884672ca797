import { type KeyboardEvent, useState } from 'react';

import type { Schemas } from '../../api/client';
import { showLength, useUnit } from '../../kit/units';

type Calibration = Schemas['CalibrationOut'];
type ScaleReading = Schemas['ScaleReading'];

interface Props {
  calibration: Calibration;
  scale: Schemas['VernierScale'];
  reading: ScaleReading | undefined;
  read: (reading: ScaleReading) => void;
  onward: () => void;
}

const TICK = 5;
const RIM = 2.5;

/** One scale as it lies on paper, large: click the printed tick that a cut one meets, and the cut line's place on the comb. */
export function VernierScale({ calibration, scale, reading, read, onward }: Props) {
  const unit = useUnit((state) => state.unit);
  const [over, setOver] = useState<number | null>(null);
  const { most_tick, coarse_mm, cut_pitch_mm, cut_ticks, printed_pitch_mm } = calibration;
  const coarse = reading?.coarse_mm ?? 0;
  const shown = over ?? reading?.tick ?? null;
  const miss =
    shown === null ? null : (calibration.miss_mm[shown + most_tick]?.[coarse_mm.indexOf(coarse)] ?? null);
  const ticks = Array.from({ length: 2 * most_tick + 1 }, (_, n) => n - most_tick);
  const half = most_tick * printed_pitch_mm + 2.4;
  const set = (tick: number, at = coarse) => read({ scale: scale.number, tick, coarse_mm: at });
  const keys = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const step = { ArrowUp: 1, ArrowDown: -1 }[event.key];
    if (event.key === 'Enter') onward();
    else if (by) set(Math.max(-most_tick, Math.min(most_tick, (reading?.tick ?? 0) + by)));
    else if (step) {
      const place = coarse_mm.indexOf(coarse) + step;
      set(reading?.tick ?? 0, coarse_mm[Math.max(0, Math.min(coarse_mm.length - 1, place))]);
    } else return;
    event.preventDefault();
  };
  const wording = scale.axis === 'x' ? ['left', 'right'] : ['up', 'down'];
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={`Scale at the ${scale.place}, ${scale.axis === 'x' ? 'across' : 'down'}`}
      aria-valuemin={-most_tick}
      aria-valuemax={most_tick}
      aria-valuenow={reading?.tick ?? 0}
      aria-valuetext={
        reading && miss !== null
          ? `tick ${reading.tick}, ${coarse} on the comb: off by ${showLength(miss, unit, 2)}`
          : reading
            ? `tick ${reading.tick}, ${coarse} on the comb: these cannot be together`
            : 'not read yet'
      }
      onKeyDown={keys}
      className="rounded-[6px] border border-rule bg-paper p-2"
    >
      <svg
        viewBox={`${-half - RIM} -7.4 ${2 * (half + RIM)} 23.4`}
        className="max-h-[42vh] w-full select-none"
        onPointerLeave={() => setOver(null)}
      >
        <g stroke="var(--ink)" strokeWidth="0.12">
          {ticks.map((tick) => (
            <line
              key={tick}
              x1={tick * printed_pitch_mm}
              x2={tick * printed_pitch_mm}
              y1={-TICK}
              y2="0"
              strokeWidth={tick === shown ? 0.3 : 0.12}
            />
          ))}
        </g>
        {ticks.map((tick) => (
          <text
            key={tick}
            x={tick * printed_pitch_mm}
            y={-TICK - 0.5}
            textAnchor="middle"
            fontSize={tick === shown ? 1.5 : 0.85}
            fontWeight={tick === shown ? 700 : 400}
            fill={tick === shown ? 'var(--kingfisher)' : 'var(--ink)'}
          >
            {Math.abs(tick)}
          </text>
        ))}
        <text x={-half} y="-1.8" fontSize="1.6" textAnchor="middle" fill="var(--ink)">
          −
        </text>
        <text x={half} y="-1.8" fontSize="1.6" textAnchor="middle" fill="var(--ink)">
          +
        </text>
        {miss !== null && (
          <g stroke="var(--kingfisher)" strokeWidth="0.12">
            {Array.from({ length: 2 * cut_ticks + 1 }, (_, n) => (n - cut_ticks) * cut_pitch_mm + miss).map(
              (x) => (
                <line key={x} x1={x} x2={x} y1="0.05" y2={TICK} />
              ),
            )}
            <line x1={miss} x2={miss} y1="10" y2="15" strokeWidth="0.16" />
          </g>
        )}
        {ticks.map((tick) => (
          <rect
            key={tick}
            data-tick={tick}
            x={(tick - 0.5) * printed_pitch_mm}
            y={-8}
            width={printed_pitch_mm}
            height={8 + TICK}
            fill="transparent"
            className="cursor-pointer"
            onPointerEnter={() => setOver(tick)}
            onClick={() => set(tick)}
          />
        ))}
        <g stroke="var(--ink)" strokeWidth="0.12">
          {coarse_mm
            .filter((at) => Number.isInteger(at))
            .map((at) => (
              <line key={at} x1={at} x2={at} y1="8" y2={at ? 11 : 12} />
            ))}
        </g>
        {coarse_mm.map((at) => (
          <rect
            key={at}
            data-coarse={at}
            x={at - 0.25}
            y="7.5"
            width="0.5"
            height="8"
            fill={at === coarse ? 'var(--kingfisher)' : 'transparent'}
            opacity={at === coarse ? 0.18 : 1}
            className="cursor-pointer"
            onClick={() => set(reading?.tick ?? 0, at)}
          />
        ))}
        <text x={-half} y="11.5" fontSize="1.1" fill="var(--ink)">
          whole mm
        </text>
        <text x={half} y="11.5" fontSize="1.1" textAnchor="end" fill="var(--ink)">
          {coarse > 0 ? '+' : ''}
          {coarse}
        </text>
      </svg>
      <p className="px-1 text-sm" role="status">
        {miss === null
          ? shown === null
            ? 'Black is printed, blue is how the cut would lie. Click the printed tick that a cut one meets best.'
            : `No cut tick can meet tick ${shown} while the cut line lies at ${coarse} on the comb: look at both once more.`
          : `${over !== null && over !== reading?.tick ? 'This would say' : 'Read'}: the cut lies ${showLength(Math.abs(miss), unit, 2)} ${miss < 0 ? wording[0] : wording[1]}.`}
      </p>
    </div>
  );
}
