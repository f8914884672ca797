import { KEYS, useSingleKeys } from '../kit/shortcuts';
import { Window } from '../kit/Window';

/** What each key does, and whether letters and signs do anything by themselves. */
export function KeysDialog({ open, close }: { open: boolean; close: () => void }) {
  const { on, turn } = useSingleKeys();
  return (
    <Window title="Keys" open={open} close={close}>
      <label className="mb-3 flex items-center gap-2">
        <input
          type="checkbox"
          className="size-4 accent-kingfisher"
          checked={on}
          onChange={(event) => turn(event.target.checked)}
        />
        Letters and signs act by themselves
      </label>
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
