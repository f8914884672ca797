/** Single keys that act anywhere on a screen: not while somebody types or chooses, and only if they are wanted. */
import { useEffect, useRef } from 'react';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';

interface SingleKeys {
  on: boolean;
  turn: (on: boolean) => void;
}

/** Letters and signs that act alone can be switched off: a voice, or a hand that slips, presses them too. */
export const useSingleKeys = create<SingleKeys>()(
  persist((set) => ({ on: true, turn: (on) => set({ on }) }), { name: 'vamper-single-keys' }),
);

export const KEYS: [string, string][] = [
  ['J / K', 'next, previous station'],
  ['A', 'add art'],
  ['P', 'pack again'],
  ['S', 'stop packing'],
  ['Z / Shift+Z', 'undo, redo'],
  ['N / Shift+N', 'on the sheet: take up the next, the previous piece'],
  ['M', 'on the sheet: take up the next piece as well'],
  ['arrows', 'nudge the pieces in hand by 0.5 mm, with Shift by 5 mm'],
  ['R / Shift+R', 'turn them by 15°, or as the turn rule says'],
  ['D', 'duplicate them'],
  ['L', 'lock or unlock them'],
  ['Backspace', 'take them off the sheet'],
  ['X', 'swap two pieces'],
  ['Escape', 'let go of them'],
  ['[ / ]', 'previous, next sheet'],
  ['+ / − / 0', 'closer, farther, the whole sheet'],
  ['H', 'hand off'],
  ['/', 'find (a job in the list, a design in a job)'],
  ['?', 'this list'],
];

const TAKEN =
  'input:not([type=range]), textarea, select, [contenteditable], [role=dialog], [role=menu], [role=listbox]';

const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement && target.closest(TAKEN) !== null;

/** `actions` maps keys ("j", "Shift+z") to what they do. */
export function useKeys(actions: Record<string, () => void>) {
  const newest = useRef(actions);
  useEffect(() => {
    newest.current = actions;
  });
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || typing(event.target)) return;
      const shifts = /^([a-z]|Arrow\w+)$/i.test(event.key);
      const name = shifts && event.shiftKey ? `Shift+${event.key.toLowerCase()}` : event.key.toLowerCase();
      const action = newest.current[name];
      // Arrows, Escape and the like have names of several letters, and nothing presses them by the way.
      if (!action || (event.key.length === 1 && !useSingleKeys.getState().on)) return;
      event.preventDefault();
      action();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);
}
