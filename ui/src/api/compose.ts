/** Composed pieces: previews while they are made, and the designs that come of them. */
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';

import { ask, client, type Schemas } from './client';
import { useDoing } from './doing';

const PREVIEW_PX = 900;

export type Composition = Schemas['Composition'];

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
      void ask(
        client.POST('/api/compose/preview.png', {
          params: { query: { px: PREVIEW_PX } },
          body: JSON.parse(asked) as Schemas['OneComposed'],
          parseAs: 'blob',
        }),
      )
        .then((picture) => {
          const url = URL.createObjectURL(picture as unknown as Blob);
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
