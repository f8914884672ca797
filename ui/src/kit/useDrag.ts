import { useRef, useState } from 'react';

const LET_GO_MS = 250;

/** A value that is moved: every movement is tried (`onMove`), the last one kept (`onChange`). */
export function useDrag(
  value: number,
  onMove: ((value: number) => void) | undefined,
  onChange: (value: number) => void,
) {
  const [moving, setMoving] = useState<number | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const pending = useRef<number | null>(null);
  // What was moved to has arrived: from here on the saved value leads again.
  if (moving !== null && Math.abs(moving - value) < 1e-6) setMoving(null);
  const letGo = () => {
    clearTimeout(timer.current);
    if (pending.current !== null) onChange(pending.current);
    pending.current = null;
  };
  const move = (next: number) => {
    setMoving(next);
    pending.current = next;
    onMove?.(next);
    // By keyboard nobody lets go; a pause is as good.
    clearTimeout(timer.current);
    timer.current = setTimeout(letGo, LET_GO_MS);
  };
  return { shown: moving ?? value, move, letGo };
}
