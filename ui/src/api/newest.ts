/** Ask as often as answers come: one question at a time, always the newest; what came in between is never asked. */
import { useCallback, useRef, useState } from 'react';

/** The newest answer with its question; `drop` forgets it, and whatever is still on its way. */
export function useNewest<Asked, Answer>(call: (asked: Asked) => Promise<Answer>) {
  const [answer, setAnswer] = useState<{ asked: Asked; answer: Answer } | null>(null);
  const waiting = useRef<{ asked: Asked } | null>(null);
  const busy = useRef(false);
  const round = useRef(0);
  const ask = useCallback(
    (asked: Asked) => {
      waiting.current = { asked };
      const drain = async () => {
        if (busy.current) return;
        busy.current = true;
        while (waiting.current) {
          const next = waiting.current.asked;
          waiting.current = null;
          const mine = round.current;
          try {
            const found = await call(next);
            if (mine === round.current) setAnswer({ asked: next, answer: found });
          } catch {
            // What cannot be asked is refused with its sentence when it is done; until then silence is enough.
            if (mine === round.current) setAnswer(null);
          }
        }
        busy.current = false;
      };
      void drain();
    },
    [call],
  );
  const drop = useCallback(() => {
    round.current += 1;
    waiting.current = null;
    setAnswer(null);
  }, []);
  return { answer, ask, drop };
}
