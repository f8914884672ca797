import { useState } from 'react';

import type { Schemas } from '../../api/client';
import { useCatalog } from '../../api/jobs';
import {
  useCalibration,
  useFollowSchool,
  useForgetCalibration,
  useForgetMisses,
  useLogMisses,
  useMachineChanged,
} from '../../api/marks';
import type { View } from '../../api/view';
import { Button } from '../../kit/Button';
import { Choose } from '../../kit/Choose';
import { Fold } from '../../kit/Fold';
import { LengthField } from '../../kit/LengthField';
import { showLength, useUnit } from '../../kit/units';

const DAY = new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'short', year: 'numeric' });

/** The sheet to print and to cut, what holds, what was before, and when a new one is due. */
export function CalibrationPanel({ view }: { view: View }) {
  const jobId = view.job.id;
  const calibration = useCalibration(jobId).data;
  if (!calibration) return null;
  const title = view.job.document.title;
  return (
    <>
      <section aria-label="Calibration" className="flex flex-col gap-2.5">
        <h2 className="font-head text-lg leading-tight font-bold">Calibrate these machines</h2>
        {calibration.due && <p className="font-bold text-bracken">{calibration.due}</p>}
        {!calibration.problem && (
          <ol className="flex list-decimal flex-col gap-1.5 pl-5 text-sm">
            <li>
              Print{' '}
              <a
                className="font-bold text-kingfisher underline"
                href={`/api/jobs/${jobId}/calibration.pdf`}
                download
              >
                the vernier sheet (PDF)
              </a>{' '}
              on this stock, at 100 %.
            </li>
            <li>
              Cut it with{' '}
              <a
                className="font-bold text-kingfisher underline"
                href={`/api/jobs/${jobId}/calibration.svg`}
                download
              >
                its cut file (SVG)
              </a>
              , or{' '}
              <a
                className="font-bold text-kingfisher underline"
                href={`/api/jobs/${jobId}/calibration.dxf`}
                download
              >
                DXF
              </a>
              ; before any tape goes on the marks.
            </li>
            <li>Read its eight scales here, one click each.</li>
          </ol>
        )}
        <p className="text-sm text-soft">
          It holds for {calibration.thickness} stock on the printer and cutter of “{title}”.
        </p>
      </section>
      <History calibration={calibration} />
      <School jobId={jobId} calibration={calibration} />
      <Misses jobId={jobId} calibration={calibration} />
    </>
  );
}

function History({ calibration }: { calibration: Schemas['CalibrationOut'] }) {
  const forget = useForgetCalibration();
  const unit = useUnit((state) => state.unit);
  const { history } = calibration;
  if (!history.length) return null;
  return (
    <section aria-label="History" className="flex flex-col gap-2 border-t border-rule pt-2">
      <h3 className="font-bold">History</h3>
      <Plot history={history.filter((one) => one.thickness === calibration.thickness)} />
      <ul className="flex flex-col gap-2 text-sm">
        {history.map((one) => (
          <li key={one.id}>
            <b>{DAY.format(new Date(one.made_at))}</b>, {one.thickness} stock
            {one.holds && <span className="font-bold text-moss"> · holds</span>}
            <br />
            {one.words}
            {one.residual_mm !== null && `; good to about ${showLength(one.residual_mm, unit, 2)}`}
            {one.versions && <span className="block text-soft">{one.versions}</span>}
            <Button look="bare" className="px-1 text-soft" onClick={() => forget.mutate(one.id)}>
              Remove
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Offsets over time: across and down. */
function Plot({ history }: { history: Schemas['RecordOut'][] }) {
  if (history.length < 2) return null;
  const points = [...history].reverse();
  const most = Math.max(
    0.2,
    ...points.flatMap((one) => [Math.abs(one.offset_x_mm), Math.abs(one.offset_y_mm)]),
  );
  const x = (n: number) => 14 + (n / (points.length - 1)) * 212;
  const y = (mm: number) => 50 - (mm / most) * 40;
  const way = (name: 'offset_x_mm' | 'offset_y_mm') =>
    points.map((one, n) => `${x(n)},${y(one[name])}`).join(' ');
  const last = points[points.length - 1];
  return (
    <svg
      viewBox="0 0 280 100"
      className="w-full"
      role="img"
      aria-label="Offsets of all calibrations, across and down"
    >
      <line x1="8" x2="232" y1="50" y2="50" stroke="var(--rule)" />
      <polyline points={way('offset_x_mm')} fill="none" stroke="var(--kingfisher)" strokeWidth="2" />
      <polyline
        points={way('offset_y_mm')}
        fill="none"
        stroke="var(--bracken)"
        strokeWidth="2"
        strokeDasharray="5 3"
      />
      {last && (
        <g fontSize="12" fill="var(--ink)">
          <text x="234" y={y(last.offset_x_mm) + 4}>
            across
          </text>
          <text x="234" y={y(last.offset_y_mm) + 4}>
            down
          </text>
        </g>
      )}
    </svg>
  );
}

function School({ jobId, calibration }: { jobId: number; calibration: Schemas['CalibrationOut'] }) {
  const catalog = useCatalog().data;
  const follow = useFollowSchool();
  const changed = useMachineChanged(jobId);
  if (!catalog) return null;
  const chosen = catalog.calibration_schools.find((one) => one.key === calibration.school);
  return (
    <Fold title="When it is due" summary={chosen?.name ?? ''}>
      <Choose
        label="Calibrate anew"
        name={chosen?.name ?? ''}
        choices={catalog.calibration_schools.map((one) => ({
          words: one.name,
          chosen: one.key === calibration.school,
          do: () => follow.mutate(one.key as Schemas['CalibrationSchool']),
        }))}
      />
      <p className="text-sm text-soft">It is due in any case after something was changed:</p>
      <Choose
        name="Something was changed"
        choices={catalog.machine_changes.map((one) => ({
          words: one.name,
          do: () => changed.mutate(one.key as Schemas['MachineChange']),
        }))}
      />
    </Fold>
  );
}

function Misses({ jobId, calibration }: { jobId: number; calibration: Schemas['CalibrationOut'] }) {
  const unit = useUnit((state) => state.unit);
  const [miss, setMiss] = useState({ dx_mm: 0, dy_mm: 0 });
  const log = useLogMisses(jobId);
  const forget = useForgetMisses(jobId);
  const { misses } = calibration;
  return (
    <Fold title="Measured pieces" summary={misses.length ? `${misses.length} count in` : 'none yet'}>
      <p className="text-sm text-soft">
        How far off was a piece of a real run? Right and down are positive. Ten of your own outweigh what is
        usual.
      </p>
      <div className="flex flex-wrap items-end gap-2">
        <LengthField label="Across" value={miss.dx_mm} onChange={(dx_mm) => setMiss({ ...miss, dx_mm })} />
        <LengthField label="Down" value={miss.dy_mm} onChange={(dy_mm) => setMiss({ ...miss, dy_mm })} />
        <Button
          onClick={() =>
            log.mutate([{ ...miss, pieces: 1 }], { onSuccess: () => setMiss({ dx_mm: 0, dy_mm: 0 }) })
          }
        >
          Count it in
        </Button>
      </div>
      {misses.length > 0 && (
        <>
          <p className="figure text-sm">
            {misses
              .slice(-5)
              .map((one) => `${showLength(one.dx_mm, unit, 2)} / ${showLength(one.dy_mm, unit, 2)}`)
              .join(' · ')}
          </p>
          <Button onClick={() => forget.mutate()}>Forget them</Button>
        </>
      )}
    </Fold>
  );
}
