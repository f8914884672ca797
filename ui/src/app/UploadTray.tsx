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
  const { uploads, clear, stop } = useUploads();
  const finished = uploads.length > 0 && uploads.every((one) => one.state === 'done' && !one.sentence);
  const inNow = uploads.filter((one) => one.state === 'done').length;
  useEffect(() => {
    if (!finished) return;
    const timer = setTimeout(clear, 2500);
    return () => clearTimeout(timer);
  }, [finished, clear]);
  if (uploads.length === 0) return null;
  const many = uploads.length > MANY;
  // Of many files, those that are in or wait for their turn need no line.
  const shown = many
    ? uploads.filter((one) => one.sentence || (one.state !== 'done' && one.state !== 'waiting'))
    : uploads;
  const busy = uploads.some((one) => one.state !== 'done' && one.state !== 'failed');
  const waiting = uploads.some((one) => one.state === 'waiting');
  return (
    <section
      aria-label="Files on their way in"
      className="panel absolute right-3 bottom-3 z-10 flex max-h-80 w-96 flex-col gap-2 overflow-auto p-3 shadow-card"
    >
      {many && (
        <div className="flex items-center justify-between gap-3">
          <p className="text-sm font-bold" role="status">
            {inNow} of {uploads.length} are in
          </p>
          {waiting && <Button onClick={stop}>Stop here</Button>}
        </div>
      )}
      {many && busy && <Bar share={inNow / uploads.length} name="All files" />}
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
                {one.state !== 'done' && <Bar share={one.share} name={one.name} />}
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

const Bar = ({ share, name }: { share: number; name: string }) => (
  <span
    role="progressbar"
    aria-label={name}
    aria-valuenow={Math.round(100 * share)}
    className="block h-1.5 w-full overflow-hidden rounded-[3px] bg-rule"
  >
    <span className="block h-full bg-kingfisher" style={{ width: `${100 * share}%` }} />
  </span>
);
