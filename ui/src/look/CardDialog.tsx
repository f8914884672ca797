import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react';
import { useId, useState } from 'react';

import { CARD_MM, useScreenScale } from './screenScale';
import { Button } from '../kit/Button';

/** Tells how large things are on this screen: a drawn card is made as wide as a real one held against it. */
export function CardDialog({ open, close }: { open: boolean; close: () => void }) {
  const { pxPerMm, measure } = useScreenScale();
  const [width, setWidth] = useState(pxPerMm * CARD_MM);
  const id = useId();
  return (
    <Dialog open={open} onClose={close} className="relative z-40">
      <div className="fixed inset-0 flex items-center justify-center bg-black/30 p-6">
        <DialogPanel className="panel max-w-[46rem] p-5 shadow-card">
          <DialogTitle className="font-head text-lg font-bold">How large is this screen?</DialogTitle>
          <p className="mb-3">
            Hold a bank card against the screen and move the slider until the drawn card is as wide as yours.
          </p>
          <div
            className="rounded-[10px] border-2 border-kingfisher bg-tray"
            style={{ width, height: (width * 54) / CARD_MM }}
            aria-hidden
          />
          <label htmlFor={id} className="mt-4 block font-bold">
            Width of the card
          </label>
          <input
            id={id}
            type="range"
            className="w-full accent-kingfisher"
            min={200}
            max={640}
            step={1}
            value={width}
            aria-valuetext={`${Math.round(width)} screen pixels`}
            onChange={(event) => setWidth(Number(event.target.value))}
          />
          <div className="mt-4 flex gap-2">
            <Button
              look="main"
              onClick={() => {
                measure(width / CARD_MM);
                close();
              }}
            >
              It fits
            </Button>
            <Button onClick={close}>Leave it</Button>
          </div>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
