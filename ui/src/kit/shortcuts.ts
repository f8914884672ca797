/** Single keys that act anywhere on a screen, except while somebody types. */
import { useEffect, useRef } from 'react';

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

const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  target.closest('input:not([type=range]), textarea, select, [role=dialog]') !== null;

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
      if (!action) return;
      event.preventDefault();
      action();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);
}
