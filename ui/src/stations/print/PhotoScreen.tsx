import { type DragEvent, useState } from 'react';

import {
  type Corners,
  type PhotoCheck,
  type PhotoKind,
  useCheckPhoto,
  useCheckSample,
  usePhotoCheck,
} from '../../api/photo';
import type { Plan } from '../../api/view';
import { Button } from '../../kit/Button';
import { FileButton } from '../../kit/FileButton';
import { NumberField } from '../../kit/NumberField';
import { asSentence } from '../../kit/words';
import { CornerHelp } from '../../look/CornerHelp';
import { PhotoPicture } from './PhotoPicture';
import { PhotoResult } from './PhotoResult';

const KINDS: readonly (readonly [PhotoKind, string, string])[] = [
  [
    'print',
    'A printed sheet or a proof',
    'A photo or scan of the whole sheet, at least three of its marks in sight.',
  ],
  [
    'weeded',
    'A weeded sheet',
    'A flat scan, or a photo in even light, once the waste is peeled off. Leave the rim with its marks; else help by the corners.',
  ],
  [
    'pieces',
    'Cut pieces',
    'A flat scan of pieces on a plain ground unlike the stock, none touching another.',
  ],
];
const USUAL_PPI = 300;

/** A picture of what was made, dropped here: every piece is looked for, and said how it came out. */
export function PhotoScreen({ jobId, plan, sheet }: { jobId: number; plan: Plan; sheet: number }) {
  const last = usePhotoCheck(jobId).data ?? null;
  const check = useCheckPhoto(jobId, sheet);
  const sample = useCheckSample(jobId, sheet);
  const [kind, setKind] = useState<PhotoKind>('print');
  const [flat, setFlat] = useState(false);
  const [ppi, setPpi] = useState(USUAL_PPI);
  const [file, setFile] = useState<File | null>(null);
  const [over, setOver] = useState(false);
  const busy = check.isPending || sample.isPending;
  const look = (picture: File, corners: Corners | null = null) => {
    setFile(picture);
    check.mutate({ file: picture, kind, ppi: kind === 'pieces' || flat ? ppi : null, corners });
  };
  const drop = (event: DragEvent) => {
    event.preventDefault();
    event.stopPropagation();
    setOver(false);
    const picture = event.dataTransfer.files[0];
    if (picture) look(picture);
  };
  const found: PhotoCheck | null = busy || check.error ? null : last?.sheet === sheet + 1 ? last : null;
  const lost = check.error !== null && file !== null && kind !== 'pieces' && !busy;
  return (
    <div className="flex h-full flex-col gap-3 overflow-y-auto p-4">
      <h2 className="font-head text-lg leading-tight font-bold">Hold a picture against the plan</h2>
      <div className="flex flex-wrap items-center gap-2" role="group" aria-label="What the picture shows">
        {KINDS.map(([key, words]) => (
          <Button
            key={key}
            look={kind === key ? 'act' : 'plain'}
            aria-pressed={kind === key}
            onClick={() => setKind(key)}
          >
            {words}
          </Button>
        ))}
        {kind === 'print' && (
          <label className="flex items-center gap-1.5 text-sm">
            <input
              type="checkbox"
              className="size-4 accent-kingfisher"
              checked={flat}
              onChange={(event) => setFlat(event.target.checked)}
            />
            it is a flat scan
          </label>
        )}
        {(kind === 'pieces' || flat) && (
          <NumberField label="The scan has" unit="ppi" value={ppi} onChange={setPpi} />
        )}
      </div>
      <p className="text-sm text-soft">{KINDS.find(([key]) => key === kind)?.[2]}</p>
      <div
        onDragOver={(event) => {
          event.preventDefault();
          event.stopPropagation();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={drop}
        className={`flex flex-wrap items-center gap-3 rounded-[6px] border-2 border-dashed p-3 ${over ? 'border-kingfisher bg-tray' : 'border-rule'}`}
      >
        <FileButton
          look="main"
          words={busy ? 'Looking …' : 'Choose a picture'}
          label="A picture of what was made"
          accept="image/*"
          disabled={busy}
          take={(picture) => look(picture)}
        />
        <span className="text-sm">or drop it here.</span>
        <Button onClick={() => sample.mutate(kind)} disabled={busy}>
          Try it with a sample
        </Button>
      </div>
      {check.error && !busy && (
        <p className="text-rowan" role="alert">
          {asSentence(check.error.message)}
        </p>
      )}
      {lost && file && <CornerHelp file={file} done={(corners) => look(file, corners)} />}
      {found && (
        <div className="grid min-h-0 grid-cols-[minmax(0,1fr)_15rem] gap-4 max-[52rem]:grid-cols-1">
          <PhotoPicture jobId={jobId} found={found} items={plan.items} />
          <PhotoResult jobId={jobId} found={found} items={plan.items} />
        </div>
      )}
    </div>
  );
}
