/** One design at a time: removed, split, its shapes, saved edges, and fields tried while a slider moves. */
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';

import { ask, client, type EdgeSpec, type Schemas } from './client';
import { useDoing } from './doing';
import { useNewest } from './newest';

/** From which size on each kind of stock holds a drawing that is cut on its own outline. */
export const useWanted = (jobId: number, number: number, from: string, enabled: boolean) =>
  useQuery({
    queryKey: ['wanted', jobId, number, from],
    queryFn: () =>
      ask(
        client.GET('/api/jobs/{job_id}/items/{number}/wanted', {
          params: { path: { job_id: jobId, number } },
        }),
      ),
    enabled,
  });

/** From how far a design's letters are read, and its size for being read from so many metres. */
export const useFromAfar = (jobId: number, number: number, from: string, metres: number) =>
  useQuery({
    queryKey: ['from afar', jobId, number, from, metres],
    queryFn: () =>
      ask(
        client.GET('/api/jobs/{job_id}/items/{number}/from-afar', {
          params: { path: { job_id: jobId, number }, query: { distance_m: metres } },
        }),
      ),
    enabled: metres > 0,
    placeholderData: keepPreviousData,
  });

export const useRemoveItems = (jobId: number) =>
  useDoing([['job', jobId]], (numbers: number[]) =>
    ask(
      client.POST('/api/jobs/{job_id}/remove-items', {
        params: { path: { job_id: jobId } },
        body: { numbers },
      }),
    ),
  );

/** Set pictures to a blank's size, cropped to its shape. */
export const useCoverBlank = (jobId: number) =>
  useDoing([['job', jobId]], (body: Schemas['CoverBlank']) =>
    ask(client.POST('/api/jobs/{job_id}/cover-blank', { params: { path: { job_id: jobId } }, body })),
  );

/** Split one design's picture into a design for each drawing in it. */
export const useSplit = (jobId: number) =>
  useDoing([['job', jobId]], ({ number, apart_mm }: { number: number; apart_mm: number }) =>
    ask(
      client.POST('/api/jobs/{job_id}/items/{number}/split', {
        params: { path: { job_id: jobId, number } },
        body: { apart_mm },
      }),
    ),
  );

/** Fill one hole that is open, or open one that is filled; `at` is a point in it. */
export const useTurnHole = (jobId: number) =>
  useDoing([['job', jobId]], ({ number, at }: { number: number; at: number[] }) =>
    ask(
      client.POST('/api/jobs/{job_id}/items/{number}/hole', {
        params: { path: { job_id: jobId, number } },
        body: { at },
      }),
    ),
  );

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

const STYLES = ['edge-styles'];

export const useStyles = () =>
  useQuery({ queryKey: STYLES, queryFn: () => ask(client.GET('/api/edge-styles')) });

export const useSaveStyle = () =>
  useDoing([STYLES], (style: { name: string; edge: EdgeSpec }) =>
    ask(client.PUT('/api/edge-styles', { body: style })),
  );

export const useRemoveStyle = () =>
  useDoing([STYLES], (name: string) =>
    ask(client.DELETE('/api/edge-styles/{name}', { params: { path: { name } } })),
  );

/** Try fields of one design while a slider moves: the newest answer, nothing saved. */
export function useTrial(jobId: number, number: number) {
  const call = useCallback(
    (changes: Record<string, unknown>) =>
      ask(
        client.POST('/api/jobs/{job_id}/items/{number}/trial', {
          params: { path: { job_id: jobId, number } },
          body: { changes },
        }),
      ),
    [jobId, number],
  );
  const { answer, ask: attempt, drop } = useNewest(call);
  return { tried: answer?.answer ?? null, attempt, drop };
}
