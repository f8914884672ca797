/** Composed pieces: previews while they are made, and the designs that come of them. */
import { useQueries, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';

import { ask, client, type Schemas } from './client';
import { useDoing } from './doing';

const PREVIEW_PX = 900;

export type Composition = Schemas['Composition'];

interface Preview {
  url: string | null;
  places: Schemas['PlacesOut'] | null;
  problem: string | null;
}

/** The piece for one name as a picture's address, with where its parts lie, drawn anew a moment after the last change; or why not. */
export function useComposedPreview(composition: Composition, name: string) {
  const [shown, setShown] = useState<Preview>({ url: null, places: null, problem: null });
  const asked = JSON.stringify({ composition, name });
  useEffect(() => {
    let over = false;
    const timer = setTimeout(() => {
      const body = JSON.parse(asked) as Schemas['OneComposed'];
      void Promise.all([
        ask(
          client.POST('/api/compose/preview.png', {
            params: { query: { px: PREVIEW_PX } },
            body,
            parseAs: 'blob',
          }),
        ),
        ask(client.POST('/api/compose/places', { body })),
      ])
        .then(([picture, places]) => {
          const url = URL.createObjectURL(picture as unknown as Blob);
          if (over) URL.revokeObjectURL(url);
          else
            setShown((before) => {
              if (before.url) URL.revokeObjectURL(before.url);
              return { url, places, problem: null };
            });
        })
        .catch((error: Error) => {
          if (!over) setShown((before) => ({ ...before, problem: error.message }));
        });
    }, 120);
    return () => {
      over = true;
      clearTimeout(timer);
    };
  }, [asked]);
  return shown;
}

/** How a composed design was made. */
export const useComposition = (jobId: number, number: number | null) =>
  useQuery({
    queryKey: ['composition', jobId, number],
    queryFn: () =>
      ask(
        client.GET('/api/jobs/{job_id}/items/{number}/composition', {
          params: { path: { job_id: jobId, number: number ?? 0 } },
        }),
      ),
    enabled: number !== null,
    gcTime: 0,
  });

export function useCompose(jobId: number, done: () => void) {
  const touched = [['job', jobId]];
  const add = useDoing(
    touched,
    (body: Schemas['Composing']) =>
      ask(client.POST('/api/jobs/{job_id}/compose', { params: { path: { job_id: jobId } }, body })),
    { done },
  );
  const redo = useDoing(
    touched,
    ({ number, body }: { number: number; body: Schemas['OneComposed'] }) =>
      ask(
        client.PUT('/api/jobs/{job_id}/items/{number}/composition', {
          params: { path: { job_id: jobId, number } },
          body,
        }),
      ),
    { done },
  );
  return { add, redo };
}

/** The flat colours of some arts, each once. */
export function useArtColours(digests: readonly string[]): string[] {
  const found = useQueries({
    queries: digests.map((digest) => ({
      queryKey: ['art colours', digest],
      queryFn: () => ask(client.GET('/api/art/{digest}/colours', { params: { path: { digest } } })),
      staleTime: Infinity,
    })),
  });
  return [...new Set(found.flatMap((one) => one.data ?? []))].slice(0, MOST_SWATCHES);
}

const MOST_SWATCHES = 6;

export const useFonts = () => useQuery({ queryKey: ['fonts'], queryFn: () => ask(client.GET('/api/fonts')) });
export const useAddFont = () =>
  useDoing([['fonts']], (file: File) => {
    const body = new FormData();
    body.append('file', file);
    return ask(client.POST('/api/fonts', { body: body as never, bodySerializer: (form) => form }));
  });
export const useRemoveFont = () =>
  useDoing([['fonts']], (family: string) => ask(client.POST('/api/fonts/remove', { body: { family } })));
