import { type ScaleLinear, scaleLinear } from 'd3-scale';
import { area, line } from 'd3-shape';
import { useId, useState } from 'react';

import type { Force, Ladder } from '../../api/cut';
import { useCatalog } from '../../api/jobs';
import { PAINT } from './outcomes';

const WIDTH = 760;
const LEFT = 12;
const RIGHT = WIDTH - 12;
const HILL = { top: 30, foot: 94 };
const BANDS = { top: 100, foot: 176 };
const HEIGHT = 208;
// A band is named where it has at least this share of the height.
// Room for the unit at the right end of the scale.
const UNIT_PX = 34;
const NAMED_FROM = 0.42;
const MOST_TICKS = 12;

/** The window of force: four bands over one axis, the belief as a hill over it, today's proposal through both. */
export function ForceWindow({ force, ladder }: { force: Force; ladder: Ladder | null }) {
  const id = useId();
  const names = new Map((useCatalog().data?.outcomes ?? []).map((one) => [one.key, one.name]));
  const [asked, setAsked] = useState<number | null>(null);
  const axis = force.axis_gf;
  const [low, high] = [axis[0] ?? 0, axis[axis.length - 1] ?? 1];
  const x = scaleLinear([low, high], [LEFT, RIGHT]);
  const y = scaleLinear([0, 1], [HILL.foot, HILL.top]);
  const outline = (shares: readonly number[]) =>
    line<number>(
      (_, index) => x(force.hill_gf[index] ?? 0),
      (share) => y(share),
    ).digits(1)(shares) ?? '';
  const under =
    area<number>(
      (_, index) => x(force.hill_gf[index] ?? 0),
      HILL.foot,
      (share) => y(share),
    ).digits(1)(force.hill) ?? '';
  const shown = asked ?? force.proposal_gf;
  const nearest = axis.reduce(
    (best, gf, index) => (Math.abs(gf - shown) < Math.abs((axis[best] ?? 0) - shown) ? index : best),
    0,
  );
  const words = force.bands
    .map((band) => [names.get(band.outcome) ?? band.outcome, Math.round((band.chances[nearest] ?? 0) * 100)])
    .filter(([, share]) => share)
    .map((one) => one.join(' '))
    .join(', ');
  const at = x(force.proposal_gf);
  return (
    <figure className="mx-auto flex w-full max-w-[56rem] flex-col gap-1 px-4 pt-3">
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="w-full rounded-[6px] border border-rule bg-paper"
        role="img"
        aria-label={`Proposed are ${force.proposal_gf} gf, good in ${force.usable_words} of 100 with a look before unloading. ${words} of 100 at ${Math.round(shown)} gf.`}
        onPointerMove={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          const share = ((event.clientX - box.left) / box.width) * WIDTH;
          setAsked(Math.max(low, Math.min(high, x.invert(share))));
        }}
        onPointerLeave={() => setAsked(null)}
      >
        <defs>
          <pattern
            id="band-lines"
            width="7"
            height="7"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <line x1="0" y1="0" x2="0" y2="7" stroke="var(--paper)" strokeWidth="1.6" />
          </pattern>
          <pattern id="band-dots" width="7" height="7" patternUnits="userSpaceOnUse">
            <circle cx="2" cy="2" r="1.2" fill="var(--paper)" />
          </pattern>
          <pattern id="band-cross" width="8" height="8" patternUnits="userSpaceOnUse">
            <path d="M0 0L8 8M8 0L0 8" stroke="var(--paper)" strokeWidth="1.2" />
          </pattern>
        </defs>
        <path d={outline(force.prior)} fill="none" stroke="var(--soft)" strokeDasharray="3 4" />
        <path d={under} fill="var(--kingfisher)" opacity="0.25" />
        <path d={outline(force.hill)} fill="none" stroke="var(--kingfisher)" strokeWidth="1.8" />
        <Bands force={force} x={x} names={names} />
        <Usable from={force.usable_gf[0]} to={force.usable_gf[1]} x={x} />
        {ladder?.drops.map((drop, index) => {
          if (drop.force_gf === null || drop.force_gf < low || drop.force_gf > high) return null;
          return (
            <path
              key={index}
              d={`M${x(drop.force_gf)} ${BANDS.foot} l-4.5 9 a4.5 4.5 0 1 0 9 0 Z`}
              fill={drop.outcome ? PAINT[drop.outcome].fill : 'var(--paper)'}
              stroke="var(--ink)"
            />
          );
        })}
        {x
          .ticks(MOST_TICKS)
          .filter((gf) => x(gf) < RIGHT - UNIT_PX)
          .map((gf) => (
            <text key={gf} x={x(gf)} y={HEIGHT - 5} textAnchor="middle" fontSize="13" fill="var(--ink)">
              {gf}
            </text>
          ))}
        <text x={RIGHT} y={HEIGHT - 5} textAnchor="end" fontSize="13" fill="var(--soft)">
          gf
        </text>
        {asked !== null && (
          <line
            x1={x(asked)}
            x2={x(asked)}
            y1={HILL.top}
            y2={BANDS.foot}
            stroke="var(--ink)"
            strokeWidth="1"
            strokeDasharray="2 3"
          />
        )}
        <line x1={at} x2={at} y1={22} y2={BANDS.foot} stroke="var(--ink)" strokeWidth="2" />
        <text
          x={Math.max(LEFT, Math.min(RIGHT, at + (at > WIDTH * 0.7 ? -7 : 7)))}
          y={18}
          textAnchor={at > WIDTH * 0.7 ? 'end' : 'start'}
          fontSize="16"
          fontWeight="700"
          fill="var(--ink)"
        >
          {`${force.proposal_gf} gf × ${force.passes}`}: good in {force.usable_words} of 100 with a look
        </text>
      </svg>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 text-sm">
        <label htmlFor={id} className="sr-only">
          Look at a force
        </label>
        <input
          id={id}
          type="range"
          className="w-44 accent-kingfisher"
          min={Math.ceil(low)}
          max={Math.floor(high)}
          value={Math.round(shown)}
          aria-valuetext={`${Math.round(shown)} gf: ${words} of 100`}
          onChange={(event) => setAsked(Number(event.target.value))}
          onBlur={() => setAsked(null)}
        />
        <span role="status" className="min-w-0 flex-1">
          At <b className="figure">{Math.round(shown)} gf</b>: {words} of 100
        </span>
      </div>
    </figure>
  );
}

/** The chances of all outcomes, stacked: at every force they fill the whole height. */
interface BandsProps {
  force: Force;
  x: ScaleLinear<number, number>;
  names: Map<string, string>;
}

function Bands({ force, x, names }: BandsProps) {
  const y = scaleLinear([0, 1], [BANDS.foot, BANDS.top]);
  const sums = force.axis_gf.map(() => 0);
  return (
    <>
      {force.bands.map((band) => {
        const from = [...sums];
        band.chances.forEach((chance, index) => (sums[index] = (sums[index] ?? 0) + chance));
        const to = [...sums];
        const d =
          area<number>(
            (_, index) => x(force.axis_gf[index] ?? 0),
            (_, index) => y(from[index] ?? 0),
            (share) => y(share),
          ).digits(1)(to) ?? '';
        const most = band.chances.reduce(
          (best, chance, index) => (chance > (band.chances[best] ?? 0) ? index : best),
          0,
        );
        const share = band.chances[most] ?? 0;
        const paint = PAINT[band.outcome];
        const middle = Math.max(LEFT + 46, Math.min(RIGHT - 74, x(plateau(band.chances, force.axis_gf))));
        return (
          <g key={band.outcome}>
            <path d={d} fill={paint.fill} opacity="0.85" />
            {paint.pattern !== 'none' && <path d={d} fill={paint.pattern} opacity="0.5" />}
            {share >= NAMED_FROM && (
              <text
                x={middle}
                y={y(((from[most] ?? 0) + (to[most] ?? 0)) / 2) + 5}
                textAnchor="middle"
                fontSize="14"
                fontWeight="700"
                fill="var(--ink)"
                stroke="var(--paper)"
                strokeWidth="4"
                paintOrder="stroke"
              >
                {names.get(band.outcome)}
              </text>
            )}
          </g>
        );
      })}
    </>
  );
}

/** Where the sheet can be used, with a look before unloading: a marked backing still peels. */
function Usable({
  from,
  to,
  x,
}: {
  from: number | undefined;
  to: number | undefined;
  x: (gf: number) => number;
}) {
  if (from === undefined || to === undefined) return null;
  const [left, right] = [x(from), x(to)];
  return (
    <g>
      <line x1={left} x2={right} y1={BANDS.top - 3} y2={BANDS.top - 3} stroke="var(--moss)" strokeWidth="5" />
      <text
        x={Math.min(right, RIGHT) - 4}
        y={BANDS.top - 13}
        textAnchor="end"
        fontSize="13"
        fill="var(--ink)"
        stroke="var(--paper)"
        strokeWidth="4"
        paintOrder="stroke"
      >
        usable with a look
      </text>
    </g>
  );
}

/** The middle of where a band is about as high as it gets. */
function plateau(chances: readonly number[], axis: readonly number[]): number {
  const most = Math.max(...chances);
  const near = axis.filter((_, index) => (chances[index] ?? 0) > most * 0.9);
  return ((near[0] ?? 0) + (near[near.length - 1] ?? 0)) / 2;
}
