/** What is asked of a job's sheets: counts, layouts side by side, scaling, fillers, backs, colours; machines. */
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';

import { useNotices } from '../app/notices';
import { ask, client, type Schemas } from './client';

const at = (job_id: number) => ({ params: { path: { job_id } } });

export type PlainShape = Schemas['PlainShape'];
/** A design by its number, or a plain shape with a border. */
export type CountOf = { number: number } | { shape: PlainShape; border_mm: number };

export const useHowMany = (jobId: number, of: CountOf | null, size_mm: number, step: string) =>
  useQuery({
    queryKey: ['how-many', jobId, of, size_mm, step],
    enabled: of !== null,
    queryFn: () =>
      of === null
        ? Promise.reject(new Error('nothing to count'))
        : 'number' in of
          ? ask(
              client.GET('/api/jobs/{job_id}/how-many/{number}', {
                params: { path: { job_id: jobId, number: of.number }, query: { size_mm } },
              }),
            )
          : ask(
              client.GET('/api/jobs/{job_id}/how-many', {
                params: { path: { job_id: jobId }, query: { ...of, size_mm } },
              }),
            ),
    placeholderData: keepPreviousData,
  });

export const useLayouts = (jobId: number, layout: string, open: boolean) =>
  useQuery({
    queryKey: ['layouts', jobId, layout],
    enabled: open,
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/layouts', at(jobId))),
    placeholderData: keepPreviousData,
  });

/** Something is done to the job, and the job is read again. */
function useDoing<T>(jobId: number, what: (asked: T) => Promise<unknown>) {
  const queries = useQueryClient();
  const tell = useNotices((state) => state.tell);
  return useMutation({
    mutationFn: what,
    onSuccess: () =>
      Promise.all([
        queries.invalidateQueries({ queryKey: ['job', jobId] }),
        queries.invalidateQueries({ queryKey: ['layouts', jobId] }),
      ]),
    onError: (error) => tell(error.message),
  });
}

export const useSaveLayout = (jobId: number) =>
  useDoing(jobId, (name: string) =>
    ask(client.POST('/api/jobs/{job_id}/layouts', { ...at(jobId), body: { name } })),
  );

export const useRemoveLayout = (jobId: number) =>
  useDoing(jobId, (name: string) =>
    ask(client.POST('/api/jobs/{job_id}/layouts/remove', { ...at(jobId), body: { name } })),
  );

/** Put a layout on the table: a named one, or straight rows (null). */
export const useKeepLayout = (jobId: number) =>
  useDoing(jobId, (name: string | null) =>
    name === null
      ? ask(client.POST('/api/jobs/{job_id}/layouts/keep-rows', at(jobId)))
      : ask(client.POST('/api/jobs/{job_id}/layouts/keep', { ...at(jobId), body: { name } })),
  );

export const useStartScaling = (jobId: number) =>
  useDoing(jobId, (sheets: number) =>
    ask(client.POST('/api/jobs/{job_id}/scale-to-fill', { ...at(jobId), body: { sheets } })),
  );

export const useStopScaling = (jobId: number) =>
  useDoing(jobId, () => ask(client.POST('/api/jobs/{job_id}/scale-to-fill/stop', at(jobId))));

/** How the search for a scale stands; asked twice a second while it works. */
export function useScaling(jobId: number, open: boolean) {
  const queries = useQueryClient();
  return useQuery({
    queryKey: ['scaling', jobId],
    enabled: open,
    queryFn: async () => {
      const told = await ask(client.GET('/api/jobs/{job_id}/scale-to-fill', at(jobId)));
      if (told?.state === 'done') await queries.invalidateQueries({ queryKey: ['job', jobId] });
      return told ?? null;
    },
    refetchInterval: (query) => (query.state.data?.state === 'working' ? 500 : false),
    gcTime: 0,
  });
}

export const useSources = (jobId: number, open: boolean) =>
  useQuery({
    queryKey: ['sources', jobId],
    enabled: open,
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/filler-sources', at(jobId))),
    gcTime: 0,
  });

export const useFillWith = (jobId: number) =>
  useDoing(jobId, (body: Schemas['FillWith']) =>
    ask(client.POST('/api/jobs/{job_id}/fillers', { ...at(jobId), body })),
  );

export const useMakeBack = (jobId: number) =>
  useDoing(jobId, (number: number) =>
    ask(
      client.POST('/api/jobs/{job_id}/items/{number}/back', {
        params: { path: { job_id: jobId, number } },
      }),
    ),
  );

export const useByColour = (jobId: number) =>
  useDoing(jobId, (number: number) =>
    ask(
      client.POST('/api/jobs/{job_id}/items/{number}/by-colour', {
        params: { path: { job_id: jobId, number } },
      }),
    ),
  );

export const usePrinters = () =>
  useQuery({ queryKey: ['printers'], queryFn: () => ask(client.GET('/api/printers')) });
export const useCutters = () =>
  useQuery({ queryKey: ['cutters'], queryFn: () => ask(client.GET('/api/cutters')) });

/** Changed or added machines; every open job and list of choices is read again. */
function useMachine<T>(what: (asked: T) => Promise<Schemas['JobId'] | undefined>) {
  const queries = useQueryClient();
  return useMutation({ mutationFn: what, onSuccess: () => queries.invalidateQueries() });
}

export const useKeepPrinter = () =>
  useMachine(({ id, profile }: { id: number | null; profile: Schemas['PrinterProfile'] }) =>
    id === null
      ? ask(client.POST('/api/printers', { body: profile }))
      : ask(client.PUT('/api/printers/{number}', { params: { path: { number: id } }, body: profile })),
  );
export const useKeepCutter = () =>
  useMachine(({ id, profile }: { id: number | null; profile: Schemas['CutterProfile'] }) =>
    id === null
      ? ask(client.POST('/api/cutters', { body: profile }))
      : ask(client.PUT('/api/cutters/{number}', { params: { path: { number: id } }, body: profile })),
  );
export const useRemoveMachine = (kind: 'printers' | 'cutters') =>
  useMachine(async (number: number) => {
    await ask(
      client.DELETE(kind === 'printers' ? '/api/printers/{number}' : '/api/cutters/{number}', {
        params: { path: { number } },
      }),
    );
    return undefined;
  });
