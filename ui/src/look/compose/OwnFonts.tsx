import { useRef } from 'react';

import { useAddFont, useFonts, useRemoveFont } from '../../api/compose';
import { Button } from '../../kit/Button';
import { asSentence } from '../../kit/words';

/** Fonts of the maker's own: kept in the workshop's file, for every job. */
export function OwnFonts() {
  const fonts = useFonts().data ?? [];
  const add = useAddFont();
  const remove = useRemoveFont();
  const picker = useRef<HTMLInputElement>(null);
  const error = add.error ?? remove.error;
  return (
    <div className="flex flex-col items-start gap-1.5">
      <Button onClick={() => picker.current?.click()} disabled={add.isPending}>
        Add a font of your own
      </Button>
      <input
        ref={picker}
        type="file"
        hidden
        aria-label="Font file"
        accept=".ttf,.otf"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) add.mutate(file);
          event.target.value = '';
        }}
      />
      {error && (
        <p role="alert" className="text-sm text-rowan">
          {asSentence(error.message)}
        </p>
      )}
      <ul className="flex flex-wrap gap-x-3 gap-y-1 text-sm">
        {fonts
          .filter((font) => font.own)
          .map((font) => (
            <li key={font.family} className="flex items-center gap-1">
              {font.family}
              <Button
                look="bare"
                aria-label={`Remove the font ${font.family}`}
                onClick={() => remove.mutate(font.family)}
              >
                Remove
              </Button>
            </li>
          ))}
      </ul>
    </div>
  );
}
