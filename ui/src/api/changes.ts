/** Changes of a job's fields: a queue, sent one after the other in the order in which they were made. */
import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useRef } from 'react';

import { readAgain } from './again';
import { ask, client, NotNow, type Schemas } from './client';
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

/** Send changes one after the other; of the same fields only the newest waits, and it waits behind all before it.
 * What cannot be saved now is sent again, before anything newer. `done` is called when everything has arrived and the
 * job was read again. */
export function useChange(jobId: number) {
  const queries = useQueryClient();
  const tell = useNotices((state) => state.tell);
  const keep = useNotices((state) => state.keep);
  const waiting = useRef<Change[]>([]);
  const after = useRef<(() => void)[]>([]);
  const busy = useRef(false);
  return useCallback(
    (change: JobChange, done?: () => void) => {
      if (done) after.current.push(done);
      const { label, changes, each = {} } = change;
      const full: Change = { label, changes, each, numbers: change.numbers ?? null };
      waiting.current = [...waiting.current.filter((one) => !sameFields(one, full)), full];
      const send = async (next: Change) => {
        const params = { path: { job_id: jobId } };
        await ask(client.POST('/api/jobs/{job_id}/changes', { params, body: next }));
      };
      const drain = async () => {
        if (useNotices.getState().kept === 'saved') keep('saving');
        if (busy.current) return;
        busy.current = true;
        for (let next = waiting.current.shift(); next; next = waiting.current.shift()) {
          try {
            await send(next);
            keep(waiting.current.length ? 'saving' : 'saved');
          } catch (error) {
            if (error instanceof NotNow) {
              keep('not saved');
              tell(`${error.message} What you changed is kept here, and sent again until it is saved.`);
              const late = next;
              // It is older than all that waits, so it goes first, unless it was made anew meanwhile.
              if (!waiting.current.some((one) => sameFields(one, late))) waiting.current.unshift(late);
              await new Promise((settle) => setTimeout(settle, AGAIN_MS));
              continue;
            }
            tell((error as Error).message);
          }
          await readAgain(queries, ['job', jobId]);
        }
        busy.current = false;
        keep('saved');
        for (const tell of after.current.splice(0)) tell();
      };
      void drain();
    },
    [jobId, queries, tell, keep],
  );
}

/** Whether two changes set the very same fields, so that the later one makes the earlier one idle. */
function sameFields(one: Change, other: Change): boolean {
  const fields = ({ numbers, changes, each }: Change) =>
    JSON.stringify([numbers, Object.keys(changes).sort(), Object.keys(each ?? {}).sort()]);
  return fields(one) === fields(other);
}

export type Changer = ReturnType<typeof useChange>;
