/** How a job is finished, and the evening that several jobs share. */
import { useQuery, useQueryClient } from '@tanstack/react-query';

import { ask, client, type Schemas } from './client';
import { useDoing } from './doing';

export type Finish = Schemas['FinishOut'];
export type FinishStep = Schemas['FinishStepOut'];
export type Label = Schemas['LabelOut'];
export type Pieces = Schemas['PiecesOut'];
export type OnCup = Schemas['OnCupOut'];
export type Evening = Schemas['EveningOut'];
export type EveningBatch = Schemas['EveningBatchOut'];
export type EveningStep = Schemas['EveningStepOut'];
export type StepDoing = Schemas['StepDoing'];
export type EveningTimes = Schemas['EveningIn'];

const EVENING = ['evening'];
/** The plan moves with the clock. */
const EVERY_MS = 10_000;
const job = (job_id: number) => ({ params: { path: { job_id } } });

/** Read anew whenever what it follows from changes. */
export const useFinish = (jobId: number, from: string) =>
  useQuery({
    queryKey: ['job', jobId, 'finish', from],
    placeholderData: (before) => before,
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/finish', job(jobId))).then((found) => found ?? null),
  });

/** How the pieces are pressed, placed, shrunk and layered; read anew whenever what it follows from changes. */
export const usePieces = (jobId: number, from: string) =>
  useQuery({
    queryKey: ['job', jobId, 'pieces', from],
    placeholderData: (before) => before,
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/finish/pieces', job(jobId))),
  });

/** A design made in parts that go round one after the other. */
export const useCupParts = (jobId: number) =>
  useDoing([['job', jobId]], ({ number, seams_mm }: { number: number; seams_mm: number[] }) =>
    ask(
      client.POST('/api/jobs/{job_id}/items/{number}/cup/parts', {
        params: { path: { job_id: jobId, number } },
        body: { seams_mm },
      }),
    ),
  );

export const placingUrl = (jobId: number) => `/api/jobs/${jobId}/placing.pdf`;

/** Where a design comes to lie on its cup; read anew when its shape or its cup changes. */
export const useCup = (jobId: number, number: number, from: string) =>
  useQuery({
    queryKey: ['job', jobId, 'cup', number, from],
    placeholderData: (before) => before,
    queryFn: () =>
      ask(
        client.GET('/api/jobs/{job_id}/items/{number}/cup', {
          params: { path: { job_id: jobId, number } },
        }),
      ).then((found) => found ?? null),
  });

/** A cup measured by paper strips round its rims. */
export const useStrips = (jobId: number, number: number) =>
  useDoing([['job', jobId]], (body: Schemas['StripsIn']) =>
    ask(
      client.POST('/api/jobs/{job_id}/items/{number}/cup/strips', {
        params: { path: { job_id: jobId, number } },
        body,
      }),
    ),
  );

export const usePutLabels = (jobId: number) =>
  useDoing([['job', jobId]], (figures: Record<string, number | null>) =>
    ask(client.PUT('/api/jobs/{job_id}/finish/labels', { ...job(jobId), body: { figures } })),
  );

export const useEvening = () =>
  useQuery({
    queryKey: EVENING,
    queryFn: () => ask(client.GET('/api/evening')),
    refetchInterval: EVERY_MS,
  });

function useEveningDoing<Asked>(what: (asked: Asked) => Promise<Evening>) {
  const queries = useQueryClient();
  return useDoing([], what, { done: (evening) => queries.setQueryData(EVENING, evening) });
}

export const useAddToEvening = () => {
  const queries = useQueryClient();
  return useDoing(null, (jobId: number) => ask(client.POST('/api/jobs/{job_id}/evening', job(jobId))), {
    done: (evening) => queries.setQueryData(EVENING, evening),
  });
};

export const useDoStep = () =>
  useEveningDoing(({ number, step, doing }: { number: number; step: number; doing: StepDoing }) =>
    ask(
      client.POST('/api/evening/batches/{number}/steps/{step}/{doing}', {
        params: { path: { number, step, doing } },
      }),
    ),
  );

export const useReadLabel = () =>
  useEveningDoing(({ number, figures }: { number: number; figures: Record<string, number> }) =>
    ask(
      client.PUT('/api/evening/batches/{number}/labels', {
        params: { path: { number } },
        body: { figures },
      }),
    ),
  );

export const useChangeEvening = () =>
  useEveningDoing((body: EveningTimes) => ask(client.PUT('/api/evening', { body })));

export const useRemoveBatch = () =>
  useDoing([EVENING], (number: number) =>
    ask(client.DELETE('/api/evening/batches/{number}', { params: { path: { number } } })),
  );

export const useClearEvening = () => useDoing([EVENING], () => ask(client.DELETE('/api/evening')));

export const CALENDAR_URL = '/api/evening.ics';
