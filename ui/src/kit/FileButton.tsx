import { type ComponentProps, useRef } from 'react';

import { Button } from './Button';

interface Props {
  words: string;
  /** What the file is, for who cannot see what stands beside it. */
  label: string;
  accept: string;
  take: (file: File) => void;
  look?: ComponentProps<typeof Button>['look'];
  disabled?: boolean;
}

/** A button that asks for one file. */
export function FileButton({ words, label, accept, take, look, disabled = false }: Props) {
  const picker = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button {...(look ? { look } : {})} disabled={disabled} onClick={() => picker.current?.click()}>
        {words}
      </Button>
      <input
        ref={picker}
        type="file"
        accept={accept}
        className="sr-only"
        tabIndex={-1}
        aria-label={label}
        onChange={(event) => {
          const file = event.target.files?.[0];
          // The same file can be chosen once more.
          event.target.value = '';
          if (file) take(file);
        }}
      />
    </>
  );
}
