import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react';

import { Button } from './Button';
import type { WindowProps } from './Window';

/** A window over the page: its title, its way out, what is in it, and what stands at its foot. */
export default function DialogWindow({
  title,
  open,
  close,
  wide = false,
  about,
  foot,
  fill = false,
  children,
}: WindowProps) {
  return (
    <Dialog open={open} onClose={close} className="relative z-40">
      <div className="fixed inset-0 flex items-center justify-center bg-black/30 p-5">
        <DialogPanel
          className={`panel flex max-h-full w-full flex-col shadow-card ${wide ? 'max-w-[68rem]' : 'max-w-[40rem]'}`}
        >
          <div className="flex items-center justify-between gap-4 border-b border-rule px-5 py-2.5">
            <DialogTitle className="font-head text-lg font-bold">{title}</DialogTitle>
            {about && <p className="min-w-0 flex-1 text-sm text-soft">{about}</p>}
            <Button onClick={close}>{foot ? 'Leave it' : 'Close'}</Button>
          </div>
          {fill ? (
            <div className="flex min-h-0 flex-1">{children}</div>
          ) : (
            // tabIndex: what scrolls must be reachable by keyboard.
            <div tabIndex={0} className="min-h-0 overflow-y-auto px-5 py-4 outline-offset-[-2px]">
              {children}
            </div>
          )}
          {foot && (
            <div className="flex flex-wrap items-center gap-3 border-t border-rule px-5 py-3">{foot}</div>
          )}
        </DialogPanel>
      </div>
    </Dialog>
  );
}
