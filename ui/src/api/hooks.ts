/** Server state: jobs and their views, changes, packing events. */
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef } from 'react';

import { useNotices } from '../app/notices';
import { ask, client, type Schemas } from './client';

export const useJobs = () => useQuery({ queryKey: ['jobs'], queryFn: () => ask(client.GET('/api/jobs')) });

export const useCatalog = () =>
  useQuery({ queryKey: ['catalog'], queryFn: () => ask(client.GET('/api/catalog')), staleTime: Infinity });

export const useView = (jobId: number) =>
  useQuery({
    queryKey: ['job', jobId],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}', { params: { path: { job_id: jobId } } })),
    placeholderData: keepPreviousData,
  });

export const useChoices = (jobId: number, phrase: string) =>
  useQuery({
    queryKey: ['choices', jobId, phrase],
    queryFn: () =>
      ask(client.GET('/api/jobs/{job_id}/choices/{phrase}', { params: { path: { job_id: jobId, phrase } } })),
    gcTime: 0,
  });

type Change = Schemas['Change'];

/** Send changes one after the other; while one is on its way, only the newest of the same fields waits. */
export function useChange(jobId: number) {
  const queries = useQueryClient();
  const tell = useNotices((state) => state.tell);
  const waiting = useRef(new Map<string, Change>());
  const busy = useRef(false);
  return useCallback(
    (change: { label: string; numbers?: number[]; changes: Record<string, unknown> }) => {
      const { label, changes } = change;
      const full: Change = { label, changes, numbers: change.numbers ?? null };
      waiting.current.set(`${full.numbers}:${Object.keys(changes)}`, full);
      const drain = async () => {
        if (busy.current) return;
        busy.current = true;
        try {
          for (const [key, next] of waiting.current) {
            waiting.current.delete(key);
            await ask(
              client.POST('/api/jobs/{job_id}/changes', {
                params: { path: { job_id: jobId } },
                body: next,
              }),
            );
            await queries.invalidateQueries({ queryKey: ['job', jobId] });
          }
        } catch (error) {
          tell((error as Error).message);
          await queries.invalidateQueries({ queryKey: ['job', jobId] });
        } finally {
          busy.current = false;
          if (waiting.current.size) void drain();
        }
      };
      void drain();
    },
    [jobId, queries, tell],
  );
}

export type Changer = ReturnType<typeof useChange>;

type JobAction = 'undo' | 'redo' | 'pack' | 'stop';
const paths = {
  undo: '/api/jobs/{job_id}/undo',
  redo: '/api/jobs/{job_id}/redo',
  pack: '/api/jobs/{job_id}/pack',
  stop: '/api/jobs/{job_id}/stop',
} as const;

/** Undo, redo, pack, stop: one call each, then the job is read again. */
export function useJobAction(jobId: number) {
  const queries = useQueryClient();
  const tell = useNotices((state) => state.tell);
  return useMutation({
    mutationFn: async (action: JobAction) => {
      await ask(client.POST(paths[action], { params: { path: { job_id: jobId } } }));
    },
    onSuccess: () => queries.invalidateQueries({ queryKey: ['job', jobId] }),
    onError: (error) => tell(error.message),
  });
}

export function useRemoveItems(jobId: number) {
  const queries = useQueryClient();
  const tell = useNotices((state) => state.tell);
  return useMutation({
    mutationFn: (numbers: number[]) =>
      ask(
        client.POST('/api/jobs/{job_id}/remove-items', {
          params: { path: { job_id: jobId } },
          body: { numbers },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['job', jobId] }),
    onError: (error) => tell(error.message),
  });
}

/** Follow a job's packing: read the job again whenever its layout got better or its search ended. */
export function usePackingEvents(jobId: number) {
  const queries = useQueryClient();
  useEffect(() => {
    const source = new EventSource(`/api/jobs/${jobId}/events`);
    source.addEventListener('packing', () => {
      void queries.invalidateQueries({ queryKey: ['job', jobId] }, { cancelRefetch: false });
    });
    return () => source.close();
  }, [jobId, queries]);
}
