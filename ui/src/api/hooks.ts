/** Server state: jobs and their views, changes, packing events. */
import {
  useIsMutating,
  keepPreviousData,
  useMutation,
  useQuery,
  useQueryClient,
} from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';

import { useNotices } from '../app/notices';
import { ask, client, type Item, type Schemas, Unsaved, type View } from './client';

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
    (change: { label: string; numbers?: number[]; changes: Record<string, unknown> }, done?: () => void) => {
      if (done) after.current.push(done);
      const { label, changes } = change;
      const full: Change = { label, changes, numbers: change.numbers ?? null };
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
            await queries.invalidateQueries({ queryKey: ['job', jobId] });
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
          await queries.invalidateQueries({ queryKey: ['job', jobId] });
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

type JobAction = 'undo' | 'redo' | 'pack' | 'pack-everything' | 'stop';
const paths = {
  undo: '/api/jobs/{job_id}/undo',
  redo: '/api/jobs/{job_id}/redo',
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

/** Undo, redo, pack, stop: one call each, then the job is read again. */
export function useJobAction(jobId: number) {
  const queries = useQueryClient();
  const tell = useNotices((state) => state.tell);
  return useMutation({
    mutationKey: jobActionKey(jobId),
    mutationFn: async (action: JobAction) => {
      const query = action === 'pack-everything' ? { everything: true } : {};
      await ask(client.POST(paths[action], { params: { path: { job_id: jobId }, query } }));
    },
    onSuccess: () => queries.invalidateQueries({ queryKey: ['job', jobId] }),
    onError: (error) => tell(error.message),
  });
}

/** Where nobody has searched for a layout of the job as it is, ask for it once. */
export function useBeginPacking(view: View) {
  const queries = useQueryClient();
  const tell = useNotices((state) => state.tell);
  const { id: job_id } = view.job;
  const waiting = view.plan?.packing.state === 'waiting' ? view.plan.packing.layout : null;
  const pieces = view.plan?.items.length ?? 0;
  useEffect(() => {
    if (waiting === null || pieces === 0) return;
    ask(client.POST('/api/jobs/{job_id}/pack/begin', { params: { path: { job_id } } }))
      .then(() => queries.invalidateQueries({ queryKey: ['job', job_id] }))
      .catch((error: Error) => tell(error.message));
  }, [job_id, waiting, pieces, queries, tell]);
}

/** The job counts as handed off from now on. */
export function useHandedOff(jobId: number) {
  const queries = useQueryClient();
  const tell = useNotices((state) => state.tell);
  return useMutation({
    mutationFn: () =>
      ask(client.POST('/api/jobs/{job_id}/hand-off', { params: { path: { job_id: jobId } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['jobs'] }),
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

/** Split one design's picture into a design for each drawing in it. */
export function useSplit(jobId: number) {
  const queries = useQueryClient();
  const tell = useNotices((state) => state.tell);
  return useMutation({
    mutationFn: ({ number, apart_mm }: { number: number; apart_mm: number }) =>
      ask(
        client.POST('/api/jobs/{job_id}/items/{number}/split', {
          params: { path: { job_id: jobId, number } },
          body: { apart_mm },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['job', jobId] }),
    onError: (error) => tell(error.message),
  });
}

/** The drawings in one design's picture, told apart by a distance. */
export const useGroups = (jobId: number, number: number, apart_mm: number | null, step: string) =>
  useQuery({
    queryKey: ['groups', jobId, number, apart_mm, step],
    queryFn: () =>
      ask(
        client.GET('/api/jobs/{job_id}/items/{number}/groups', {
          params: { path: { job_id: jobId, number }, query: apart_mm === null ? {} : { apart_mm } },
        }),
      ),
    placeholderData: keepPreviousData,
    gcTime: 0,
  });

/** Shapes that one design's border could have; `step` is the job's step, so that they follow its changes. */
export const useShapes = (jobId: number, number: number, step: string) =>
  useQuery({
    queryKey: ['shapes', jobId, number, step],
    queryFn: () =>
      ask(
        client.GET('/api/jobs/{job_id}/items/{number}/shapes', {
          params: { path: { job_id: jobId, number } },
        }),
      ),
    placeholderData: keepPreviousData,
    gcTime: 0,
  });

export const useStyles = () =>
  useQuery({ queryKey: ['edge-styles'], queryFn: () => ask(client.GET('/api/edge-styles')) });

export function useStyleActions() {
  const queries = useQueryClient();
  const tell = useNotices((state) => state.tell);
  const onSettled = () => queries.invalidateQueries({ queryKey: ['edge-styles'] });
  const onError = (error: Error) => tell(error.message);
  const save = useMutation({
    mutationFn: (style: { name: string; edge: Schemas['EdgeModel'] }) =>
      ask(client.PUT('/api/edge-styles', { body: style })),
    onSettled,
    onError,
  });
  const remove = useMutation({
    mutationFn: (name: string) =>
      ask(client.DELETE('/api/edge-styles/{name}', { params: { path: { name } } })),
    onSettled,
    onError,
  });
  return { save, remove };
}

/** Try fields of one design while a slider moves: the newest answer, nothing saved. At most one is on its way. */
export function useTrial(jobId: number, number: number) {
  const [tried, setTried] = useState<Item | null>(null);
  const waiting = useRef<Record<string, unknown> | null>(null);
  const busy = useRef(false);
  const over = useRef(0);
  const drop = useCallback(() => {
    over.current += 1;
    waiting.current = null;
    setTried(null);
  }, []);
  const attempt = useCallback(
    (changes: Record<string, unknown>) => {
      waiting.current = changes;
      const drain = async () => {
        if (busy.current) return;
        busy.current = true;
        while (waiting.current) {
          const next = waiting.current;
          waiting.current = null;
          const round = over.current;
          try {
            const item = await ask(
              client.POST('/api/jobs/{job_id}/items/{number}/trial', {
                params: { path: { job_id: jobId, number } },
                body: { changes: next },
              }),
            );
            if (round === over.current) setTried(item);
          } catch {
            // What cannot be tried will be refused with its sentence when it is let go.
          }
        }
        busy.current = false;
      };
      void drain();
    },
    [jobId, number],
  );
  return { tried, attempt, drop };
}

/** Follow a job's packing: read the job again whenever its layout got better or its search ended. */
export function usePackingEvents(jobId: number) {
  const queries = useQueryClient();
  useEffect(() => {
    const source = new EventSource(`/api/jobs/${jobId}/events`);
    // One reading at a time; what happened during one is read after it, so that the last event is never missed.
    let moved = false;
    let reading = false;
    const read = async () => {
      moved = true;
      if (reading) return;
      reading = true;
      while (moved) {
        moved = false;
        await queries.invalidateQueries({ queryKey: ['job', jobId] });
      }
      reading = false;
    };
    source.addEventListener('packing', () => void read());
    return () => source.close();
  }, [jobId, queries]);
}
