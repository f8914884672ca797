/** What is typed into a field until it is taken over, on Enter or when the field is left; Escape gives it up. */
import { type KeyboardEvent, useState } from 'react';

/** What a typed text means: a value, nothing at all, or a sentence that says what to type. */
export type Typed<T> = { value: T } | { empty: true } | { wrong: string };

interface Draft<T> {
  /** The value as the field shows it. */
  shown: string;
  read: (text: string) => Typed<T>;
  take: (value: T) => void;
  /** What an emptied field does; without it the value before comes back. */
  clear?: (() => void) | undefined;
}

/** A draft that cannot be read stays as it was typed, with the sentence that says why. */
export function useDraft<T>({ shown, read, take, clear }: Draft<T>) {
  const [draft, setDraft] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const drop = () => {
    setDraft(null);
    setWrong(null);
  };
  const done = () => {
    if (draft === null) return;
    const text = draft.trim();
    if (text === shown) return drop();
    const typed = text === '' ? { empty: true as const } : read(text);
    if ('wrong' in typed) return setWrong(typed.wrong);
    drop();
    if ('value' in typed) take(typed.value);
    else if (shown !== '') clear?.();
  };
  return {
    wrong,
    field: {
      value: draft ?? shown,
      'aria-invalid': wrong !== null,
      onChange: (event: { target: { value: string } }) => setDraft(event.target.value),
      onBlur: done,
      onKeyDown: (event: KeyboardEvent) => {
        if (event.key === 'Escape') return drop();
        if (event.key !== 'Enter') return;
        // What is typed is taken over; a form that it stands in is sent by its button.
        event.preventDefault();
        done();
      },
    },
  };
}

/** A number, with a comma or a point, within what may be typed. */
export function readNumber(text: string, { least, most, whole = false }: Range = {}): Typed<number> {
  const value = /^[-−+]?\s*(\d+([.,]\d*)?|[.,]\d+)$/.test(text)
    ? Number(text.replace('−', '-').replace(',', '.').replace(/\s/g, ''))
    : NaN;
  if (!Number.isFinite(value) || (whole && !Number.isInteger(value)))
    return { wrong: `Type a ${whole ? 'whole ' : ''}number such as ${whole ? '12' : '2.5'}.` };
  if (least !== undefined && value < least) return { wrong: `At least ${least}.` };
  if (most !== undefined && value > most) return { wrong: `At most ${most}.` };
  return { value };
}

export interface Range {
  least?: number | undefined;
  most?: number | undefined;
  whole?: boolean;
}
