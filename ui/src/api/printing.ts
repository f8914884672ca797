/** What to choose in the printer's dialog, what a proof measures, and ink. */
import { keepPreviousData, useQuery } from '@tanstack/react-query';

import { ask, client, type Schemas } from './client';
import { useDoing } from './doing';

export type Printing = Schemas['PrintingOut'];

const job = (job_id: number) => ({ params: { path: { job_id } } });

export const usePrinting = (jobId: number) =>
  useQuery({
    queryKey: ['job', jobId, 'printing'],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/printing', job(jobId))),
    placeholderData: keepPreviousData,
  });

export const useChoosePrinting = (jobId: number) =>
  useDoing([['job', jobId, 'printing']], (body: Schemas['PrintChoiceIn']) =>
    ask(client.PUT('/api/jobs/{job_id}/printing', { ...job(jobId), body })),
  );

export const useMeasureProof = (jobId: number) =>
  useDoing(null, (body: Schemas['ProofIn']) =>
    ask(client.POST('/api/jobs/{job_id}/proof', { ...job(jobId), body })),
  );

export const useInk = (jobId: number, sheet: number, layout: string) =>
  useQuery({
    queryKey: ['job', jobId, 'ink', sheet, layout],
    queryFn: () =>
      ask(
        client.GET('/api/jobs/{job_id}/sheets/{sheet}/ink', {
          params: { path: { job_id: jobId, sheet: sheet + 1 } },
        }),
      ),
    placeholderData: keepPreviousData,
  });
