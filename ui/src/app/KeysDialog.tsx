import { Link } from 'wouter';

import { KEYS, useSingleKeys } from '../kit/shortcuts';
import { Tick } from '../kit/Tick';
import { Window } from '../kit/Window';

/** What each key does, and whether letters and signs do anything by themselves. */
export function KeysDialog({ open, close }: { open: boolean; close: () => void }) {
  const { on, turn } = useSingleKeys();
  return (
    <Window title="Help and keys" open={open} close={close}>
      <p className="mb-3 flex flex-wrap gap-5">
        <Link href="/guide" className="font-bold text-kingfisher underline" onClick={close}>
          The guide
        </Link>
        <Link href="/words" className="font-bold text-kingfisher underline" onClick={close}>
          Words of the craft
        </Link>
      </p>
      <div className="mb-3">
        <Tick label="Letters and signs act by themselves" on={on} set={turn} />
      </div>
      <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-1.5">
        {KEYS.map(([key, what]) => (
          <div key={key} className="contents">
            <dt className="figure font-bold">{key}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Window>
  );
}
