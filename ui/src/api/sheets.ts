/** What is asked of a job's sheets: counts, layouts side by side, scaling, fillers, backs, colours. */
import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';

import { readAgain } from './again';
import { ask, client, type Schemas } from './client';
import { useDoing } from './doing';
import { type Placement, placementsOf } from './view';

const touched = (jobId: number) => [
  ['job', jobId],
  ['layouts', jobId],
];
const at = (job_id: number) => ({ params: { path: { job_id } } });

export type PlainShape = Schemas['PlainShape'];
/** A design by its number, or a plain shape with a border. */
export type CountOf = { number: number } | { shape: PlainShape; border_mm: number };

/** Figures of plain rows at once, better ones as soon as they are counted; `refining` until then. */
export function useHowMany(jobId: number, of: CountOf | null, size_mm: number, step: string) {
  const quick = useCounted(jobId, of, size_mm, step, true);
  const full = useCounted(jobId, of, size_mm, step, false);
  return {
    data: full.data ?? quick.data,
    error: full.error ?? quick.error,
    refining: full.isFetching,
  };
}

const useCounted = (jobId: number, of: CountOf | null, size_mm: number, step: string, quick: boolean) =>
  useQuery({
    meta: { told: true },
    queryKey: ['how-many', jobId, of, size_mm, step, quick],
    enabled: of !== null,
    queryFn: () =>
      of === null
        ? Promise.reject(new Error('nothing to count'))
        : 'number' in of
          ? ask(
              client.GET('/api/jobs/{job_id}/how-many/{number}', {
                params: { path: { job_id: jobId, number: of.number }, query: { size_mm, quick } },
              }),
            )
          : ask(
              client.GET('/api/jobs/{job_id}/how-many', {
                params: { path: { job_id: jobId }, query: { ...of, size_mm, quick } },
              }),
            ),
  });

/** Whole sets of several designs on one sheet, by plain rows at once, then by a short search. */
export function useTogether(jobId: number, numbers: number[], step: string) {
  const quick = useSets(jobId, numbers, step, true);
  const full = useSets(jobId, numbers, step, false);
  return { data: full.data ?? quick.data, error: full.error ?? quick.error, refining: full.isFetching };
}

const useSets = (jobId: number, numbers: number[], step: string, quick: boolean) =>
  useQuery({
    queryKey: ['how-many-together', jobId, numbers, step, quick],
    enabled: numbers.length > 1,
    queryFn: () =>
      ask(
        client.GET('/api/jobs/{job_id}/how-many-together', {
          params: { path: { job_id: jobId }, query: { numbers, quick } },
        }),
      ),
  });

/** One layout of a job with its figures. */
export type Compared = Omit<Schemas['ComparedOut'], 'sheets' | 'pins'> & { sheets: Placement[][] };

export const useLayouts = (jobId: number, layout: string, open: boolean) =>
  useQuery({
    meta: { told: true },
    queryKey: ['layouts', jobId, layout],
    enabled: open,
    queryFn: async () =>
      (await ask(client.GET('/api/jobs/{job_id}/layouts', at(jobId)))).map(({ sheets, pins, ...rest }) => ({
        ...rest,
        sheets: sheets.map((sheet) => placementsOf(sheet, pins)),
      })),
    placeholderData: keepPreviousData,
  });

export const useSaveLayout = (jobId: number) =>
  useDoing(touched(jobId), (name: string) =>
    ask(client.POST('/api/jobs/{job_id}/layouts', { ...at(jobId), body: { name } })),
  );

export const useRemoveLayout = (jobId: number) =>
  useDoing(touched(jobId), (name: string) =>
    ask(client.POST('/api/jobs/{job_id}/layouts/remove', { ...at(jobId), body: { name } })),
  );

/** Put a layout on the table: a named one, or straight rows (null). */
export const useKeepLayout = (jobId: number) =>
  useDoing(touched(jobId), (name: string | null) =>
    name === null
      ? ask(client.POST('/api/jobs/{job_id}/layouts/keep-rows', at(jobId)))
      : ask(client.POST('/api/jobs/{job_id}/layouts/keep', { ...at(jobId), body: { name } })),
  );

export const useStartScaling = (jobId: number) =>
  useDoing(touched(jobId), (sheets: number) =>
    ask(client.POST('/api/jobs/{job_id}/scale-to-fill', { ...at(jobId), body: { sheets } })),
  );

export const useStopScaling = (jobId: number) =>
  useDoing(touched(jobId), () => ask(client.POST('/api/jobs/{job_id}/scale-to-fill/stop', at(jobId))));

/** How the search for a scale stands; asked twice a second while it works. */
export function useScaling(jobId: number, open: boolean) {
  const queries = useQueryClient();
  return useQuery({
    queryKey: ['scaling', jobId],
    enabled: open,
    queryFn: async () => {
      const told = await ask(client.GET('/api/jobs/{job_id}/scale-to-fill', at(jobId)));
      if (told?.state === 'done') await readAgain(queries, ['job', jobId]);
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
  useDoing(touched(jobId), (body: Schemas['FillWith']) =>
    ask(client.POST('/api/jobs/{job_id}/fillers', { ...at(jobId), body })),
  );

/** Whether more copies of a design are fine, and before or after which others. */
export const useFillPriority = (jobId: number) =>
  useDoing(touched(jobId), ({ number, move }: { number: number; move: Schemas['PriorityMove'] }) =>
    ask(
      client.POST('/api/jobs/{job_id}/items/{number}/fill-priority', {
        params: { path: { job_id: jobId, number } },
        body: { move },
      }),
    ),
  );

export const useMakeBack = (jobId: number) =>
  useDoing(touched(jobId), (number: number) =>
    ask(
      client.POST('/api/jobs/{job_id}/items/{number}/back', {
        params: { path: { job_id: jobId, number } },
      }),
    ),
  );
