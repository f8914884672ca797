import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react';

import { Button } from '../kit/Button';
import { KEYS, useSingleKeys } from '../kit/shortcuts';

export function KeysDialog({ open, close }: { open: boolean; close: () => void }) {
  const { on, turn } = useSingleKeys();
  return (
    <Dialog open={open} onClose={close} className="relative z-40">
      <div className="fixed inset-0 flex items-center justify-center bg-black/30 p-6">
        <DialogPanel className="panel w-96 p-5 shadow-card">
          <DialogTitle className="mb-3 font-head text-lg font-bold">Keys</DialogTitle>
          <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-1.5">
            {KEYS.map(([key, what]) => (
              <div key={key} className="contents">
                <dt className="figure font-bold">{key}</dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
          <label className="mt-4 flex items-center gap-2">
            <input
              type="checkbox"
              className="size-4 accent-kingfisher"
              checked={on}
              onChange={(event) => turn(event.target.checked)}
            />
            Letters and signs act by themselves
          </label>
          <Button className="mt-4" onClick={close}>
            Close
          </Button>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
