/** Composed pieces: previews while they are made, and the designs that come of them. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';

import { useNotices } from '../app/notices';
import { ask, client, Problem, type Schemas } from './client';

export type Composition = Schemas['CompositionModel'];

/** The piece for one name as a picture's address, drawn anew a moment after the last change; or why it cannot be. */
export function useComposedPreview(composition: Composition, name: string) {
  const [shown, setShown] = useState<{ url: string | null; problem: string | null }>({
    url: null,
    problem: null,
  });
  const asked = JSON.stringify({ composition, name });
  useEffect(() => {
    let over = false;
    const timer = setTimeout(() => {
      void fetch('/api/compose/preview.png?px=900', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: asked,
      })
        .then(async (answer) => {
          if (!answer.ok)
            throw new Problem(((await answer.json()) as { detail?: string }).detail ?? 'It cannot be drawn.');
          const url = URL.createObjectURL(await answer.blob());
          if (over) URL.revokeObjectURL(url);
          else
            setShown((before) => {
              if (before.url) URL.revokeObjectURL(before.url);
              return { url, problem: null };
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
  const queries = useQueryClient();
  const tell = useNotices((state) => state.tell);
  const settled = {
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ['job', jobId] });
      done();
    },
    onError: (error: Error) => tell(error.message),
  };
  const add = useMutation({
    mutationFn: (body: Schemas['Composing']) =>
      ask(client.POST('/api/jobs/{job_id}/compose', { params: { path: { job_id: jobId } }, body })),
    ...settled,
  });
  const redo = useMutation({
    mutationFn: ({ number, body }: { number: number; body: Schemas['OneComposed'] }) =>
      ask(
        client.PUT('/api/jobs/{job_id}/items/{number}/composition', {
          params: { path: { job_id: jobId, number } },
          body,
        }),
      ),
    ...settled,
  });
  return { add, redo };
}
