/** What rings: a rest whose time is up, hands whose time has come. Seen as well as heard; once for each. */
import { useEffect, useRef, useState } from 'react';

import type { Evening } from '../api/finish';
import { timeOf } from '../kit/clock';

const KEY = 'vamper.chime';
const SOUND = '/chime.wav';

export function useChime(evening: Evening | undefined, now: Date) {
  const [on, setOn] = useState(() => localStorage.getItem(KEY) !== 'off');
  const rung = useRef(new Set<string>());
  const due = evening ? dueNow(evening, now) : [];
  const names = due.join('; ');
  useEffect(() => {
    const fresh = names.split('; ').filter((one) => one && !rung.current.has(one));
    if (!fresh.length) return;
    fresh.forEach((one) => rung.current.add(one));
    // A browser may refuse sound until something was pressed; the page shows it all the same.
    if (on) void new Audio(SOUND).play().catch(() => undefined);
  }, [names, on]);
  const toggle = () => {
    localStorage.setItem(KEY, on ? 'off' : 'on');
    setOn(!on);
    if (!on) void new Audio(SOUND).play().catch(() => undefined);
  };
  return { ringing: due.length > 0, on, toggle };
}

function dueNow(evening: Evening, now: Date) {
  const found: string[] = [];
  for (const batch of evening.batches) {
    for (const step of batch.steps) {
      const name = `${batch.number}.${step.step}`;
      const running = step.state === 'running' || step.state === 'over';
      if (running && timeOf(step.ends) <= now) found.push(`${name} is over`);
      const begun = batch.steps.some((one) => one.state !== 'to-come');
      if (step.hands_on && step.state === 'to-come' && begun && timeOf(step.starts) <= now)
        found.push(`${name} begins`);
    }
  }
  return found;
}
