import { useEffect } from 'react';

import { Button } from '../kit/Button';
import { asSentence } from '../kit/words';
import { useUploads } from '../api/uploads';

/** From so many files on, how far they are is told in one line as well. */
const MANY = 4;
const WORDS = {
  waiting: 'waiting',
  sending: 'sending',
  reading: 'reading',
  done: 'added',
  failed: '',
} as const;

/** Progress of every file; goes away by itself when all of them are in. */
export function UploadTray() {
  const { uploads, clear } = useUploads();
  const finished = uploads.length > 0 && uploads.every((one) => one.state === 'done' && !one.sentence);
  const inNow = uploads.filter((one) => one.state === 'done').length;
  useEffect(() => {
    if (!finished) return;
    const timer = setTimeout(clear, 2500);
    return () => clearTimeout(timer);
  }, [finished, clear]);
  if (uploads.length === 0) return null;
  // Of many files those that are in need no line any more.
  const shown =
    uploads.length > MANY ? uploads.filter((one) => one.state !== 'done' || one.sentence) : uploads;
  const busy = uploads.some((one) => one.state !== 'done' && one.state !== 'failed');
  return (
    <section
      aria-label="Files on their way in"
      className="panel absolute right-3 bottom-3 z-10 flex max-h-80 w-96 flex-col gap-2 overflow-auto p-3 shadow-card"
    >
      {uploads.length > MANY && (
        <p className="text-sm font-bold" role="status">
          {inNow} of {uploads.length} are in
        </p>
      )}
      <ul className="flex flex-col gap-2">
        {shown.map((one) => (
          <li key={one.id} className="text-sm">
            <div className="flex justify-between gap-3">
              <span className="truncate font-bold">{one.name}</span>
              <span className="text-soft">{WORDS[one.state]}</span>
            </div>
            {one.state === 'failed' ? (
              <p className="text-rowan">Not added: {one.sentence}</p>
            ) : (
              <>
                {one.sentence && (
                  <p className={one.state === 'done' ? '' : 'text-rowan'}>{asSentence(one.sentence)}</p>
                )}
                {one.state !== 'done' && (
                  <progress
                    className="h-1.5 w-full accent-kingfisher"
                    value={one.share}
                    aria-label={one.name}
                  />
                )}
              </>
            )}
          </li>
        ))}
      </ul>
      {!busy && !finished && (
        <Button onClick={clear} className="self-end">
          Close
        </Button>
      )}
    </section>
  );
}
