/** Times of day as they are said, and a clock that moves the page. */
import { useEffect, useState } from 'react';

const MINUTE_MS = 60_000;
const pad = (figure: number) => String(figure).padStart(2, '0');

/** A time without a zone, as the workshop keeps it. */
export const timeOf = (text: string) => new Date(text);

export const clockTime = (text: string) => {
  const time = timeOf(text);
  return `${pad(time.getHours())}:${pad(time.getMinutes())}`;
};

export const minutesBetween = (from: string | Date, to: string | Date) =>
  (new Date(to).getTime() - new Date(from).getTime()) / MINUTE_MS;

/** A span of time as it is said: 35 min, 2 h, 2 h 40. */
export function span(minutes: number) {
  const whole = Math.max(0, Math.round(minutes));
  const hours = Math.floor(whole / 60);
  const rest = whole % 60;
  if (!hours) return `${rest} min`;
  return rest ? `${hours} h ${pad(rest)}` : `${hours} h`;
}

/** What is left of a span, to the second where little is left. */
export function left(ms: number) {
  const seconds = Math.max(0, Math.ceil(ms / 1000));
  if (seconds >= 3600) return span(seconds / 60);
  return `${Math.floor(seconds / 60)}:${pad(seconds % 60)}`;
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
