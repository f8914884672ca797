import type { Plan } from '../../api/view';
import { useLook } from '../../look/shown';
import { Button } from '../../kit/Button';
import { Fold } from '../../kit/Fold';
import { showLength, useUnit } from '../../kit/units';
import { asSentence } from '../../kit/words';

const NAMES: Record<string, string> = {
  printer: 'Printer',
  cutter: 'Blade',
  rollers: 'Rollers',
  mat: 'Mat',
  marks: 'Marks',
  spent: 'Used already',
  granted: 'Its own program',
};

/** The live area and what bounds it, each with its reason; pressed, one is drawn on the sheet. */
export function LiveAreaFold({ plan }: { plan: Plan }) {
  const { bound, draw } = useLook();
  const unit = useUnit((state) => state.unit);
  const size = plan.live_size;
  return (
    <Fold
      title="Area you can use"
      summary={`${showLength(size.width_mm, unit, 1)} × ${showLength(size.height_mm, unit, 1)}`}
    >
      <p className="text-sm text-soft">
        What all of these leave free. A layout inside it is never refused later. Press one to see it.
      </p>
      {plan.mirror && (
        <p className="mb-2 text-sm text-soft">
          Drawn as the finished piece reads: left and right are the other way round on the sheet as it is
          loaded.
        </p>
      )}
      <ul className="flex flex-col gap-1.5">
        {plan.bounds.map((one) => (
          <li key={one.name}>
            <Button
              look={bound === one.name ? 'act' : 'plain'}
              aria-pressed={bound === one.name}
              className="w-full flex-col items-start! gap-0! text-left"
              onClick={() => draw(bound === one.name ? null : one.name)}
            >
              <span className="font-bold">{NAMES[one.name] ?? one.name}</span>
              <span className="font-normal text-soft">{asSentence(one.reason)}</span>
            </Button>
          </li>
        ))}
      </ul>
    </Fold>
  );
}

/** One of the limits drawn on the sheet: what it takes away is hatched. */
export function DrawnBound({ plan, pxPerMm }: { plan: Plan; pxPerMm: number }) {
  const name = useLook((state) => state.bound);
  const bound = plan.bounds.find((one) => one.name === name);
  if (!bound) return null;
  const step = 7 / pxPerMm;
  return (
    <g data-testid="bound">
      <pattern
        id="taken"
        width={step}
        height={step}
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(45)"
      >
        <path d={`M0 0V${step}`} stroke="var(--d-look)" strokeWidth={1.6 / pxPerMm} />
      </pattern>
      <path
        d={`M0 0H${plan.width_mm}V${plan.height_mm}H0Z ${bound.path}`}
        fillRule="evenodd"
        fill="url(#taken)"
        opacity="0.75"
      />
      <path
        d={bound.path}
        fill="none"
        stroke="var(--d-look)"
        strokeWidth="2"
        vectorEffect="non-scaling-stroke"
      />
    </g>
  );
}
