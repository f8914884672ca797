/** Times of day as they are said, and a clock that moves the page. */
import { useEffect, useState } from 'react';

const pad = (figure: number) => String(figure).padStart(2, '0');

/** A time as the workshop keeps it, with its offset. */
export const timeOf = (text: string) => new Date(text);

export const clockTime = (text: string) => {
  const time = timeOf(text);
  return `${pad(time.getHours())}:${pad(time.getMinutes())}`;
};

/** What is left of a span, to the second. */
export function left(ms: number) {
  const seconds = Math.max(0, Math.ceil(ms / 1000));
  const minutes = Math.floor(seconds / 60);
  if (minutes < 60) return `${minutes}:${pad(seconds % 60)}`;
  return `${Math.floor(minutes / 60)}:${pad(minutes % 60)}:${pad(seconds % 60)}`;
}

/** The workshop's own time, every second: `told` is what it said when the page heard it at `heard` (ms). */
export function useClock(told: string | undefined, heard: number) {
  const [now, setNow] = useState(() => new Date());
  useEffect(() => {
    const tick = () => setNow(new Date(told ? timeOf(told).getTime() + Date.now() - heard : Date.now()));
    tick();
    const ticking = setInterval(tick, 1000);
    return () => clearInterval(ticking);
  }, [told, heard]);
  return now;
}
