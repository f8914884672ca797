import { useState } from 'react';

import { type LaidSheet, type SpoiltPiece, useLookAtPhoto } from '../api/ledger';
import type { Corners, PhotoKind } from '../api/photo';
import { Button } from '../kit/Button';
import { FileButton } from '../kit/FileButton';
import { asSentence } from '../kit/words';
import { CornerHelp } from '../look/CornerHelp';

const KINDS: readonly (readonly [PhotoKind, string])[] = [
  ['print', 'before it is weeded'],
  ['weeded', 'once the waste is peeled off'],
];

interface Props {
  jobId: number;
  sheet: LaidSheet;
  simulated: boolean;
  found: (pieces: SpoiltPiece[]) => void;
}

/** A photo or scan of the sheet taps the spoilt pieces; they are looked over before they are logged. */
export function FromPhoto({ jobId, sheet, simulated, found }: Props) {
  const look = useLookAtPhoto(jobId, sheet.number);
  const [kind, setKind] = useState<PhotoKind>('weeded');
  const [file, setFile] = useState<File | null>(null);
  const ask = (picture: File | null, corners: Corners | null = null) => {
    setFile(picture);
    look.mutate({ file: picture, kind, corners }, { onSuccess: (seen) => found(seen.spoilt) });
  };
  return (
    <section aria-label="From a photo or scan" className="flex flex-col gap-2 border-b border-rule pb-3">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5 text-sm">
        <b>A photo can tap them for you:</b>
        {KINDS.map(([key, words]) => (
          <label key={key} className="flex items-center gap-1.5">
            <input
              type="radio"
              name="photo-kind"
              className="accent-kingfisher"
              checked={kind === key}
              onChange={() => setKind(key)}
            />
            {words}
          </label>
        ))}
        <FileButton
          words={look.isPending ? 'Looking …' : 'Choose a picture'}
          label="A picture of the sheet"
          accept="image/*"
          disabled={look.isPending}
          take={(picture) => ask(picture)}
        />
        {simulated && (
          <Button look="bare" onClick={() => ask(null)} disabled={look.isPending}>
            Look at the practice sheet
          </Button>
        )}
      </div>
      {look.data && (
        <p role="status" className="text-sm">
          {look.data.words}
        </p>
      )}
      {look.error && !look.isPending && (
        <p role="alert" className="text-sm text-rowan">
          {asSentence(look.error.message)}
        </p>
      )}
      {look.error && !look.isPending && file && (
        <CornerHelp file={file} done={(corners) => ask(file, corners)} />
      )}
    </section>
  );
}
