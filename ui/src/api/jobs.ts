/** Jobs: their list, what is done to a whole one, and its packing. */
import { useIsMutating, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';

import { readAgain } from './again';
import { ask, client } from './client';
import { useDoing } from './doing';
import { useNotices } from './notices';
import { knownParts, showAnswer, type View } from './view';

export const useJobs = () => useQuery({ queryKey: ['jobs'], queryFn: () => ask(client.GET('/api/jobs')) });

export const useCatalog = () =>
  useQuery({ queryKey: ['catalog'], queryFn: () => ask(client.GET('/api/catalog')), staleTime: Infinity });

/** What a number may be, by its field as in changes; nothing while that is not known yet. */
export function useRange(field: string) {
  const range = useCatalog().data?.ranges[field];
  return { min: range?.least ?? 0, max: range?.most ?? 0 };
}

export const useChoices = (jobId: number, phrase: string) =>
  useQuery({
    meta: { told: true },
    queryKey: ['choices', jobId, phrase],
    queryFn: () =>
      ask(client.GET('/api/jobs/{job_id}/choices/{phrase}', { params: { path: { job_id: jobId, phrase } } })),
    gcTime: 0,
  });

type JobAction = 'pack' | 'pack-everything' | 'stop';
const paths = {
  pack: '/api/jobs/{job_id}/pack',
  'pack-everything': '/api/jobs/{job_id}/pack',
  stop: '/api/jobs/{job_id}/stop',
} as const;

const jobActionKey = (jobId: number) => ['job-action', jobId];

/** Whether a search was asked to end, by button or by key, and has not ended yet. */
export const useIsStopping = (jobId: number) =>
  useIsMutating({
    mutationKey: jobActionKey(jobId),
    predicate: (mutation) => mutation.state.variables === 'stop',
  }) > 0;

const steps = { undo: '/api/jobs/{job_id}/undo', redo: '/api/jobs/{job_id}/redo' } as const;

/** Undo and redo: the answer is the job as it is then. */
export function useStep(jobId: number) {
  const queries = useQueryClient();
  return useDoing([], async (step: keyof typeof steps) => {
    const body = knownParts(queries.getQueryData<View>(['job', jobId]));
    const answer = await ask(client.POST(steps[step], { params: { path: { job_id: jobId } }, body }));
    await showAnswer(queries, jobId, answer);
  });
}

/** Pack, pack everything, stop: one call each, then the job is read again. */
export const useJobAction = (jobId: number) =>
  useDoing(
    [['job', jobId]],
    (action: JobAction) => {
      const query = action === 'pack-everything' ? { everything: true } : {};
      return ask(client.POST(paths[action], { params: { path: { job_id: jobId }, query } }));
    },
    { key: jobActionKey(jobId) },
  );

// A page that has just been opened is drawn first: a search takes all the machine has.
const DRAWN_MS = 600;

/** Where nobody has searched for a layout of the job as it is, ask for it once. */
export function useBeginPacking(view: View) {
  const queries = useQueryClient();
  const tell = useNotices((state) => state.tell);
  const { id: job_id } = view.job;
  const waiting = view.plan?.packing.state === 'waiting' ? view.plan.packing.layout : null;
  const pieces = view.plan?.items.length ?? 0;
  const [openedAt] = useState(() => performance.now());
  useEffect(() => {
    if (waiting === null || pieces === 0) return;
    const begin = () =>
      ask(client.POST('/api/jobs/{job_id}/pack/begin', { params: { path: { job_id } } }))
        .then(() => readAgain(queries, ['job', job_id]))
        .catch((error: Error) => tell(error.message));
    const drawn = setTimeout(() => void begin(), openedAt + DRAWN_MS - performance.now());
    return () => clearTimeout(drawn);
  }, [job_id, waiting, pieces, openedAt, queries, tell]);
}

/** The job counts as handed off from now on. */
export const useHandedOff = (jobId: number) =>
  useDoing([['jobs']], () =>
    ask(client.POST('/api/jobs/{job_id}/hand-off', { params: { path: { job_id: jobId } } })),
  );

/**
 * Follow a job's packing: read the job again whenever its layout got better or its search ended.
 *
 * A browser has few connections to one server for all its tabs. One that nobody sees, or that was left and is only
 * kept for the way back, gives its own up and reads the job when it is seen again.
 */
export function usePackingEvents(jobId: number) {
  const queries = useQueryClient();
  useEffect(() => {
    let source: EventSource | null = null;
    // One reading at a time; what happened during one is read after it, so that the last event is never missed.
    let moved = false;
    let reading = false;
    const read = async () => {
      moved = true;
      if (reading) return;
      reading = true;
      while (moved) {
        moved = false;
        await readAgain(queries, ['job', jobId]);
      }
      reading = false;
    };
    const listen = () => {
      source = new EventSource(`/api/jobs/${jobId}/events`);
      source.addEventListener('packing', () => void read());
    };
    const rest = () => {
      source?.close();
      source = null;
    };
    const look = () => {
      if (document.hidden) rest();
      else if (source === null) {
        listen();
        void read();
      }
    };
    if (!document.hidden) listen();
    document.addEventListener('visibilitychange', look);
    window.addEventListener('pagehide', rest);
    window.addEventListener('pageshow', look);
    return () => {
      document.removeEventListener('visibilitychange', look);
      window.removeEventListener('pagehide', rest);
      window.removeEventListener('pageshow', look);
      rest();
    };
  }, [jobId, queries]);
}
