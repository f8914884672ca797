/** Changes of a job's fields: a queue a job, which goes on wherever in the program the maker is. */
import { type QueryClient, useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';

import { readAgain } from './again';
import { ChangeQueue } from './changeQueue';
import { ask, client, NotNow, type Schemas } from './client';
import { useNotices } from './notices';
import { knownParts, showAnswer, type View } from './view';

type FieldChange = Omit<Schemas['Change'], 'known'>;
type Fix = Omit<Schemas['FixIn'], 'known'>;
type FixEach = Omit<Schemas['FixEachIn'], 'known'>;
type Answer = Omit<Schemas['AnswerIn'], 'known'>;
type Change = FieldChange | Fix | FixEach | Answer;
type Queue = ChangeQueue<Change, Schemas['ViewOut']>;

/** Fields of the job, or of the designs that `numbers` names; `each` are fields of every design beside the job's. */
interface JobChange {
  label: string;
  numbers?: number[];
  changes: Record<string, unknown>;
  each?: Record<string, unknown>;
}

/** How long to wait before what could not be saved is sent once more. */
const AGAIN_MS = 3000;

const queues = new Map<number, Queue>();

function queueOf(jobId: number, queries: QueryClient): Queue {
  const { tell, keep } = useNotices.getState();
  const made =
    queues.get(jobId) ??
    new ChangeQueue<Change, Schemas['ViewOut']>({
      send: (change) => {
        const known = knownParts(queries.getQueryData<View>(['job', jobId]));
        const params = { path: { job_id: jobId } };
        if ('meant' in change)
          return ask(client.POST('/api/jobs/{job_id}/answers', { params, body: { ...change, known } }));
        if ('code' in change)
          return ask(client.POST('/api/jobs/{job_id}/fixes/each', { params, body: { ...change, known } }));
        return 'target' in change
          ? ask(client.POST('/api/jobs/{job_id}/fixes', { params, body: { ...change, known } }))
          : ask(client.POST('/api/jobs/{job_id}/changes', { params, body: { ...change, known } }));
      },
      sets: (change) =>
        'target' in change || 'code' in change
          ? JSON.stringify(change)
          : JSON.stringify([
              change.numbers,
              Object.keys(change.changes).sort(),
              Object.keys(change.each ?? {}).sort(),
            ]),
      // What makes designs out of one may have come through though no answer did, and must not be made twice.
      isLater: (error, change) =>
        error instanceof NotNow &&
        (!('target' in change) || change.target === 'item' || change.target === 'job'),
      pause: () => new Promise((settle) => setTimeout(settle, AGAIN_MS)),
      keep,
      arrived: (answer) => showAnswer(queries, jobId, answer),
      refused: async (error) => {
        tell(error.message);
        await readAgain(queries, ['job', jobId]);
      },
      late: (error) =>
        tell(`${error.message} What you changed is kept here, and sent again until it is saved.`),
    });
  queues.set(jobId, made);
  return made;
}

/** Change a job; `done` is called when everything has arrived and the job is shown as it is then. */
export function useChange(jobId: number) {
  const queries = useQueryClient();
  return useCallback(
    ({ label, changes, each = {}, numbers }: JobChange, done?: () => void) =>
      queueOf(jobId, queries).push({ label, changes, each, numbers: numbers ?? null }, done),
    [jobId, queries],
  );
}

/** Do what a finding offers. */
export function useFix(jobId: number) {
  const queries = useQueryClient();
  return useCallback((fix: Fix) => queueOf(jobId, queries).push(fix), [jobId, queries]);
}

/** Do what a finding offers for several designs at once. */
export function useFixEach(jobId: number) {
  const queries = useQueryClient();
  return useCallback((fix: FixEach) => queueOf(jobId, queries).push(fix), [jobId, queries]);
}

/** Say “I mean it” to a finding, or take that back. */
export function useAnswer(jobId: number) {
  const queries = useQueryClient();
  return useCallback((answer: Answer) => queueOf(jobId, queries).push(answer), [jobId, queries]);
}

export type Changer = ReturnType<typeof useChange>;
