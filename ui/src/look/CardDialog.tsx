import { useId, useState } from 'react';

import { CARD_MM, useScreenScale } from './screenScale';
import { Button } from '../kit/Button';
import { Window } from '../kit/Window';

/** Tells how large things are on this screen: a drawn card is made as wide as a real one held against it. */
export function CardDialog({ open, close }: { open: boolean; close: () => void }) {
  const { pxPerMm, measure } = useScreenScale();
  const [width, setWidth] = useState(pxPerMm * CARD_MM);
  const id = useId();
  return (
    <Window
      title="How large is this screen?"
      open={open}
      close={close}
      foot={
        <Button
          look="main"
          onClick={() => {
            measure(width / CARD_MM);
            close();
          }}
        >
          It fits
        </Button>
      }
    >
      <p className="mb-3">
        Hold a bank card against the screen and move the slider until the two are the same width.
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
    </Window>
  );
}
