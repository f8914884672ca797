/** Changes of a job's fields: sent one after the other, the newest of the same fields in the place of older ones. */
import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useRef } from 'react';

import { readAgain } from './again';
import { ask, client, type Schemas, Unsaved } from './client';
import { useNotices } from './notices';

type Change = Schemas['Change'];
/** Fields of the job, or of the designs that `numbers` names; `each` are fields of every design beside the job's. */
interface JobChange {
  label: string;
  numbers?: number[];
  changes: Record<string, unknown>;
  each?: Record<string, unknown>;
}

/** How long to wait before what could not be saved is sent once more. */
const AGAIN_MS = 3000;

/** Send changes one after the other; while one is on its way, only the newest of the same fields waits.
 * `done` is called when everything has arrived and the job was read again. */
export function useChange(jobId: number) {
  const queries = useQueryClient();
  const tell = useNotices((state) => state.tell);
  const hold = useNotices((state) => state.hold);
  const waiting = useRef(new Map<string, Change>());
  const after = useRef<(() => void)[]>([]);
  const busy = useRef(false);
  return useCallback(
    (change: JobChange, done?: () => void) => {
      if (done) after.current.push(done);
      const { label, changes, each = {} } = change;
      const full: Change = { label, changes, each, numbers: change.numbers ?? null };
      waiting.current.set(`${full.numbers}:${Object.keys(changes)}`, full);
      const drain = async () => {
        if (busy.current) return;
        busy.current = true;
        let sent: [string, Change] | null = null;
        try {
          for (const [key, next] of waiting.current) {
            waiting.current.delete(key);
            sent = [key, next];
            await ask(
              client.POST('/api/jobs/{job_id}/changes', {
                params: { path: { job_id: jobId } },
                body: next,
              }),
            );
            hold(false);
            await readAgain(queries, ['job', jobId]);
          }
        } catch (error) {
          tell((error as Error).message);
          if (error instanceof Unsaved && sent) {
            hold(true);
            // What was typed stays, and is sent again until there is room for it, or something newer to send.
            const [key, change] = sent;
            if (!waiting.current.has(key)) waiting.current.set(key, change);
            await new Promise((settle) => setTimeout(settle, AGAIN_MS));
            return;
          }
          await readAgain(queries, ['job', jobId]);
        } finally {
          busy.current = false;
          if (waiting.current.size) void drain();
          else for (const tell of after.current.splice(0)) tell();
        }
      };
      void drain();
    },
    [jobId, queries, tell, hold],
  );
}

export type Changer = ReturnType<typeof useChange>;
