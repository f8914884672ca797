/** Pictures that cover a blank: its size typed once, one press for all that are picked, and the part that shows dragged. */
import { useState } from 'react';

import { artUrl, type ItemDocument, type Schemas } from '../../api/client';
import { useCoverBlank } from '../../api/designs';
import { useCatalog } from '../../api/jobs';
import { Button } from '../../kit/Button';
import { Fold } from '../../kit/Fold';
import { LengthField } from '../../kit/LengthField';
import { movedCrop, type Crop } from './movedCrop';

type Blank = Schemas['BlankSpec'];

interface Props {
  jobId: number;
  document: ItemDocument;
  blank: Blank | null;
  numbers: readonly number[];
  all: readonly number[];
  set: (label: string, changes: Record<string, unknown>) => void;
}

export function CoverFold({ jobId, document, blank, numbers, all, set }: Props) {
  const start = useCatalog().data?.start.blank ?? null;
  const cover = useCoverBlank(jobId);
  const [typed, setTyped] = useState<Partial<Blank>>({});
  const wanted = start && { ...start, ...blank, ...typed };
  const crop = document.prepare.cut_off ? (document.prepare.crop as Crop | null) : null;
  return (
    <Fold title="Cover a blank" summary={crop ? 'cropped to it' : 'mug, coaster, tile'}>
      {wanted && (
        <>
          <div className="flex flex-wrap gap-4">
            <LengthField
              label="Wide"
              value={wanted.width_mm}
              onChange={(width_mm) => setTyped({ ...typed, width_mm })}
            />
            <LengthField
              label="High"
              value={wanted.height_mm}
              onChange={(height_mm) => setTyped({ ...typed, height_mm })}
            />
            <LengthField
              label="Past it"
              value={wanted.past_mm ?? 0}
              onChange={(past_mm) => setTyped({ ...typed, past_mm })}
            />
          </div>
          <Button
            look="act"
            className="self-start"
            onClick={() => cover.mutate({ item_numbers: [...numbers], blank: wanted })}
          >
            {numbers.length > 1
              ? `Cover one with each of these ${numbers.length}`
              : 'Cover it with this picture'}
          </Button>
          {numbers.length === 1 && all.length > 1 && (
            <Button
              className="self-start"
              onClick={() => cover.mutate({ item_numbers: [...all], blank: wanted })}
            >
              {`Cover one with each of all ${all.length}`}
            </Button>
          )}
        </>
      )}
      {crop && (
        <CropDrag
          key={crop.join()}
          art={document.art}
          crop={crop}
          put={(next) => set('which part shows', { 'prepare.crop': next })}
        />
      )}
    </Fold>
  );
}

const STEP = 0.01;
const ARROWS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-STEP, 0],
  ArrowRight: [STEP, 0],
  ArrowUp: [0, -STEP],
  ArrowDown: [0, STEP],
};

/** The whole picture with the part that shows; it is dragged, or moved with the arrow keys. */
function CropDrag({ art, crop, put }: { art: string; crop: Crop; put: (crop: Crop) => void }) {
  const [now, setNow] = useState(crop);
  const [from, setFrom] = useState<readonly [number, number] | null>(null);
  const [left, top, right, bottom] = now;
  return (
    <div className="relative self-start overflow-hidden rounded-[6px]">
      <img src={artUrl(art, 800)} alt="" className="block max-h-56 max-w-full opacity-40" />
      <button
        type="button"
        aria-label="The part that shows: drag it, or move it with the arrow keys"
        className="absolute cursor-move touch-none border-2 border-kingfisher bg-paper/10"
        style={{
          left: `${left * 100}%`,
          top: `${top * 100}%`,
          width: `${(right - left) * 100}%`,
          height: `${(bottom - top) * 100}%`,
        }}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          setFrom([event.clientX, event.clientY]);
        }}
        onPointerMove={(event) => {
          const box = event.currentTarget.parentElement?.getBoundingClientRect();
          if (!from || !box) return;
          setNow(
            movedCrop(crop, (event.clientX - from[0]) / box.width, (event.clientY - from[1]) / box.height),
          );
        }}
        onPointerUp={() => {
          setFrom(null);
          if (now !== crop) put(now);
        }}
        onKeyDown={(event) => {
          const by = ARROWS[event.key];
          if (!by) return;
          event.preventDefault();
          put(movedCrop(now, ...by));
        }}
      />
    </div>
  );
}
