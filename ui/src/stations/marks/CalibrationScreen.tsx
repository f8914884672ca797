import { useState } from 'react';

import type { Schemas } from '../../api/client';
import { useCalibration, useFit, useKeepCalibration } from '../../api/marks';
import { practiceVernierUrl } from '../../api/twin';
import type { View } from '../../api/view';
import { Bead } from '../../kit/Bead';
import { Button } from '../../kit/Button';
import { asSentence } from '../../kit/words';
import { FitResult } from './FitResult';
import { useVernierDraft } from './vernierDraft';
import { VernierScale } from './VernierScale';

// What of the sheet a scale takes round its middle: along it, before it, and beyond it, mm.
const ALONG_MM = 11;
const BEFORE_MM = 7.4;
const BEYOND_MM = 13;

/** A scale on the practice sheet, as it was printed and cut. */
function ScaleSeen({ jobId, scale }: { jobId: number; scale: Schemas['VernierScale'] }) {
  const across = scale.axis === 'x';
  const [long, tall] = [2 * ALONG_MM, BEFORE_MM + BEYOND_MM];
  const box = {
    x_mm: scale.x_mm - (across ? ALONG_MM : BEFORE_MM),
    y_mm: scale.y_mm - (across ? BEFORE_MM : ALONG_MM),
    width_mm: across ? long : tall,
    height_mm: across ? tall : long,
  };
  return (
    <figure>
      <figcaption className="mb-1 text-sm">
        <b>From the practice bench</b> (simulated): which printed tick meets a cut one, and where on the comb
        lies the single cut line?
      </figcaption>
      <img
        src={practiceVernierUrl(jobId, box)}
        alt={`The scale at the ${scale.place}, ${across ? 'across' : 'down'}, as it came out`}
        className="w-full rounded-[6px] border border-rule"
        style={{ aspectRatio: `${box.width_mm} / ${box.height_mm}` }}
      />
    </figure>
  );
}

const NONE: Record<number, Schemas['ScaleReading']> = {};

/** Reading a vernier sheet: scale after scale, then what they come to, and the check figure that closes it. */
export function CalibrationScreen({ view }: { view: View }) {
  const jobId = view.job.id;
  const calibration = useCalibration(jobId).data;
  const drafts = useVernierDraft();
  const draft = drafts.byJob[jobId] ?? NONE;
  const [at, setAt] = useState(0);
  const fit = useFit(jobId);
  const keep = useKeepCalibration(jobId);
  if (!calibration) return null;
  if (calibration.problem) {
    return <p className="p-6">{asSentence(calibration.problem)}</p>;
  }
  const { scales } = calibration;
  const readings: Schemas['ScaleReading'][] = Object.values(draft);
  const done = readings.length === scales.length;
  const scale = scales[at];
  const go = (next: number) => {
    setAt(next);
    if (next >= scales.length) fit.mutate(readings);
  };
  return (
    <div className="flex h-full flex-col gap-3 overflow-y-auto p-4">
      <div className="flex flex-wrap items-center gap-2" role="group" aria-label="Scales">
        {scales.map((one, index) => (
          <button
            key={one.number}
            type="button"
            aria-pressed={index === at}
            onClick={() => setAt(index)}
            className={`inline-flex items-center gap-1.5 rounded-[6px] border px-2 py-1 text-sm ${index === at ? 'border-kingfisher font-bold' : 'border-rule'} ${draft[one.number] ? 'bg-paper' : 'bg-tray'}`}
          >
            <Bead state={draft[one.number] ? 'settled' : 'not-yet'} />
            {one.place}, {one.axis === 'x' ? 'across' : 'down'}
            <span className="sr-only">{draft[one.number] ? ', read' : ', open'}</span>
          </button>
        ))}
        <Button
          look={at >= scales.length ? 'act' : 'plain'}
          disabled={!done}
          onClick={() => go(scales.length)}
        >
          Result
        </Button>
      </div>
      {scale ? (
        <>
          <h2 className="font-head text-lg leading-tight font-bold">
            Scale at the {scale.place}, {scale.axis === 'x' ? 'across' : 'down'}: {at + 1} of {scales.length}
          </h2>
          <div className={view.plan?.practice ? 'grid grid-cols-[22rem_1fr] items-start gap-3' : ''}>
            {view.plan?.practice && <ScaleSeen jobId={jobId} scale={scale} />}
            <VernierScale
              key={scale.number}
              calibration={calibration}
              scale={scale}
              reading={draft[scale.number]}
              read={(reading) => drafts.read(jobId, reading)}
              onward={() => draft[scale.number] && go(at + 1)}
            />
          </div>
          {scale.axis === 'y' && (
            <p className="text-sm text-soft">
              It stands upright on the sheet; here it lies on its side, its top at the left.
            </p>
          )}
          <div className="flex flex-wrap items-center gap-3">
            <Button disabled={at === 0} onClick={() => setAt(at - 1)}>
              Before
            </Button>
            <Button look="main" disabled={!draft[scale.number]} onClick={() => go(at + 1)}>
              {at + 1 < scales.length ? 'Next scale' : 'See the result'}
            </Button>
            <span className="text-sm text-soft">
              Keys: ← → the tick, ↑ ↓ the whole millimetres, Enter onward
            </span>
          </div>
        </>
      ) : (
        <>
          {fit.isPending && <p>Fitting …</p>}
          {fit.error && (
            <p className="text-rowan" role="alert">
              {asSentence(fit.error.message)}
            </p>
          )}
          {fit.data && (
            <FitResult
              fit={fit.data}
              calibration={calibration}
              view={view}
              again={(number) => setAt(scales.findIndex((one) => one.number === number))}
              error={keep.error?.message}
              keep={(check, versions) =>
                keep.mutate(
                  { readings, check, versions },
                  {
                    onSuccess: () => {
                      drafts.forget(jobId);
                      setAt(0);
                    },
                  },
                )
              }
            />
          )}
        </>
      )}
    </div>
  );
}
