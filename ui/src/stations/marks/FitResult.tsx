import { useState } from 'react';

import type { Schemas } from '../../api/client';
import type { View } from '../../api/view';
import { Button } from '../../kit/Button';
import { showLength, useUnit } from '../../kit/units';
import { useCatalog } from '../../api/jobs';
import { asSentence } from '../../kit/words';
import { timesAsFar } from './arrows';

type Side = Schemas['NarrowSide'];

interface Props {
  fit: Schemas['FitOut'];
  calibration: Schemas['CalibrationOut'];
  view: View;
  again: (scale: number) => void;
  keep: (check: Side, versions: string) => void;
  error: string | undefined;
}

/** What the readings come to, the one that does not fit the others, and the check figure that closes it. */
export function FitResult({ fit, calibration, view, again, keep, error }: Props) {
  const sides = useCatalog().data?.narrow_sides ?? [];
  const words = (side: Side) => sides.find((one) => one.key === side)?.name ?? '';
  const unit = useUnit((state) => state.unit);
  const [check, setCheck] = useState<Side | null>(null);
  const [versions, setVersions] = useState('');
  const { width_mm: width, height_mm: height } = view.job.document.paper ?? { width_mm: 1, height_mm: 1 };
  const times = timesAsFar(fit.arrows);
  const worst = calibration.scales.find((one) => one.number === fit.worst_scale);
  return (
    <div className="flex flex-wrap gap-6">
      <svg
        viewBox={`-3 -3 ${width + 6} ${height + 6}`}
        className="drawing h-[min(24rem,50vh)] rounded-[6px] border border-rule"
        role="img"
        aria-label={`The cut from the print, ${times} times as far off: ${fit.words}`}
      >
        <rect width={width} height={height} fill="var(--d-paper)" stroke="var(--d-rule)" />
        {fit.arrows.map(({ x_mm, y_mm, dx_mm, dy_mm }, index) => (
          <g key={index} stroke="var(--d-edge)" fill="var(--d-edge)" strokeWidth="1">
            <circle cx={x_mm} cy={y_mm} r="1.6" />
            <line x1={x_mm} y1={y_mm} x2={x_mm + dx_mm * times} y2={y_mm + dy_mm * times} />
          </g>
        ))}
      </svg>
      <div className="flex min-w-64 flex-1 flex-col gap-3">
        <h2 className="font-head text-lg leading-tight font-bold">{fit.words}</h2>
        <p className="text-sm text-soft">
          {fit.residual_mm === null
            ? 'Too few readings to tell how well they agree.'
            : `The readings agree to ${showLength(fit.residual_mm, unit, 2)}. Arrows: where the cut lands from the print, ${times} times as far.`}
        </p>
        {worst && fit.suspicious && (
          <div className="rounded-[6px] border border-rowan p-2.5">
            <p>
              <b>
                {worst.place}, {worst.axis === 'x' ? 'across' : 'down'}
              </b>{' '}
              lies {showLength(fit.worst_by_mm ?? 0, unit, 2)} from what the others foretell: most likely a
              misread tick.
            </p>
            <Button className="mt-1.5" onClick={() => again(worst.number)}>
              Read it again
            </Button>
          </div>
        )}
        <fieldset className="flex flex-col gap-1.5">
          <legend className="font-bold">The check figure: where is the black ring narrow?</legend>
          <div className="grid w-fit grid-cols-3 gap-1" role="group">
            {GRID.map((side) => (
              <button
                key={side}
                type="button"
                aria-pressed={check === side}
                onClick={() => setCheck(side)}
                className={`min-w-24 rounded-[6px] border px-2 py-1.5 text-sm ${check === side ? 'border-kingfisher bg-paper font-bold' : 'border-rule bg-tray'}`}
              >
                {words(side)}
              </button>
            ))}
          </div>
        </fieldset>
        <label className="flex flex-col gap-0.5 text-sm">
          Versions of what was used, as far as you know them
          <input
            className="field"
            maxLength={200}
            placeholder="printer driver 3.1, cutter firmware 1.08, new blade holder"
            value={versions}
            onChange={(event) => setVersions(event.target.value)}
          />
        </label>
        {error && (
          <p className="text-rowan" role="alert">
            {asSentence(error)}
          </p>
        )}
        <div>
          <Button look="main" disabled={check === null} onClick={() => check && keep(check, versions)}>
            Keep this calibration
          </Button>
        </div>
        <p className="text-sm text-soft">
          From then on cut files for these machines and {calibration.thickness} stock are drawn so that the
          cut lands where the print is. What is shown stays as planned.
        </p>
      </div>
    </div>
  );
}

const GRID: readonly Side[] = [
  'upper-left',
  'above',
  'upper-right',
  'left',
  'even',
  'right',
  'lower-left',
  'below',
  'lower-right',
];
