import { scaleLinear } from 'd3-scale';
import { area, line } from 'd3-shape';
import { useEffect, useRef } from 'react';

import type { Reading } from '../../api/marks';
import { showLength, useUnit } from '../../kit/units';

/** One mark as the sensor sees it, and the trace across its stroke with noise and threshold. */
export function SensorScreen({ reading }: { reading: Reading }) {
  const { seen } = reading;
  const unit = useUnit((state) => state.unit);
  const at = (point: readonly number[]) => [
    (((point[0] ?? 0) - seen.left_mm) / seen.side_mm) * 100,
    (((point[1] ?? 0) - seen.top_mm) / seen.side_mm) * 100,
  ];
  const [from, to] = [at(seen.from_mm), at(seen.to_mm)];
  return (
    <div className="flex flex-1 shrink-0 flex-wrap items-center justify-center gap-x-7 gap-y-4 p-4">
      <figure className="flex flex-col gap-1.5">
        <div className="relative">
          <Grey seen={seen} words={reading.words} />
          <svg viewBox="0 0 100 100" className="absolute inset-0 h-full w-full" aria-hidden>
            <line
              x1={from[0]}
              y1={from[1]}
              x2={to[0]}
              y2={to[1]}
              stroke="#38b6d0"
              strokeWidth="1.5"
              strokeDasharray="5 4"
              vectorEffect="non-scaling-stroke"
            />
          </svg>
        </div>
        <figcaption className="text-sm text-soft">
          one mark, {showLength(seen.side_mm, unit)} across, as grey values
        </figcaption>
      </figure>
      <Trace reading={reading} />
    </div>
  );
}

function Grey({ seen, words }: { seen: Reading['seen']; words: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context) return;
    const image = context.createImageData(seen.side_px, seen.side_px);
    seen.grey.forEach((value, index) => image.data.set([value, value, value, 255], index * 4));
    context.putImageData(image, 0, 0);
  }, [seen]);
  return (
    <canvas
      ref={canvas}
      width={seen.side_px}
      height={seen.side_px}
      role="img"
      aria-label={`A mark as the sensor sees it; all marks are read in ${words} of 100 tries`}
      className="size-[17rem] rounded-[6px] border border-rule"
    />
  );
}

const WIDTH = 420;
const HEIGHT = 230;
const LEFT = 12;
const TOP = 18;
const BASE = HEIGHT - 30;

function Trace({ reading }: { reading: Reading }) {
  const { seen } = reading;
  const unit = useUnit((state) => state.unit);
  const span = seen.at_mm[seen.at_mm.length - 1] ?? 1;
  const levels = [...seen.one_pass, ...seen.mean.map((mean) => mean + 2 * seen.sigma), seen.threshold];
  const most = Math.max(...levels, 0.05) * 1.05;
  const least = Math.min(0, seen.threshold, ...seen.one_pass);
  const x = scaleLinear([0, span], [LEFT, WIDTH - LEFT]);
  const y = scaleLinear([least, most], [BASE, TOP]);
  const across = (_: number, n: number) => x(seen.at_mm[n] ?? 0);
  const trace = line<number>(across, (level) => y(level)).digits(1);
  const band = area<number>(
    across,
    (level) => y(level - 2 * seen.sigma),
    (level) => y(level + 2 * seen.sigma),
  ).digits(1);
  const limit = y(seen.threshold);
  const under = limit > BASE - 30;
  const text = { fontSize: 13, fill: 'var(--ink)' };
  return (
    <figure className="flex w-[min(27rem,100%)] flex-col gap-1.5">
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="w-full rounded-[6px] border border-rule bg-paper"
        role="img"
        aria-label={`The light across the stroke falls ${reading.scene.signal.toFixed(2)} deep, the noise is ${reading.scene.noise.toFixed(2)}; it is found from a depth of ${reading.scene.threshold.toFixed(2)} on`}
      >
        <path d={band(seen.mean) ?? ''} fill="var(--kingfisher)" opacity="0.18" />
        <path d={trace(seen.one_pass) ?? ''} fill="none" stroke="var(--soft)" strokeWidth="0.9" />
        <path d={trace(seen.mean) ?? ''} fill="none" stroke="var(--ink)" strokeWidth="1.8" />
        <line x1={LEFT} x2={WIDTH - LEFT} y1={limit} y2={limit} stroke="var(--rowan)" strokeWidth="1" />
        <text
          {...text}
          fill="var(--rowan)"
          x={WIDTH - LEFT}
          y={under ? limit - 5 : limit + 14}
          textAnchor="end"
        >
          found below this line
        </text>
        <text {...text} x={LEFT} y={13}>
          bright
        </text>
        <text {...text} x={LEFT} y={HEIGHT - 9}>
          dark
        </text>
        <text {...text} x={WIDTH / 2} y={HEIGHT - 9} textAnchor="middle">
          across the stroke, {showLength(span, unit)}
        </text>
      </svg>
      <figcaption className="text-sm text-soft">
        The heavy line is the light that comes back, the band its noise, the thin line one pass.
      </figcaption>
    </figure>
  );
}
