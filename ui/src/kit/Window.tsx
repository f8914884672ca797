import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react';
import type { ReactNode } from 'react';

import { Button } from './Button';

interface Props {
  title: string;
  open: boolean;
  close: () => void;
  wide?: boolean;
  children: ReactNode;
}

/** Something that needs room of its own for a while; Escape or “Close” leads back. */
export function Window({ title, open, close, wide = false, children }: Props) {
  return (
    <Dialog open={open} onClose={close} className="relative z-40">
      <div className="fixed inset-0 flex items-center justify-center bg-black/30 p-5">
        <DialogPanel
          className={`panel flex max-h-full w-full flex-col shadow-card ${wide ? 'max-w-[68rem]' : 'max-w-[40rem]'}`}
        >
          <div className="flex items-center justify-between gap-4 border-b border-rule px-5 py-2.5">
            <DialogTitle className="font-head text-lg font-bold">{title}</DialogTitle>
            <Button onClick={close}>Close</Button>
          </div>
          {/* tabIndex: what scrolls must be reachable by keyboard. */}
          <div tabIndex={0} className="min-h-0 overflow-y-auto px-5 py-4 outline-offset-[-2px]">
            {children}
          </div>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
