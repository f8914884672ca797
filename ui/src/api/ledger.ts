/** Runs, what they say of each setting, and what went wrong. */
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue } from 'react';

import { ask, client, type Schemas } from './client';
import { useDoing } from './doing';
import { type Corners, cornersText } from './photo';

export type CameOutQuestion = Schemas['CameOutQuestion'];
export type LaidSheet = Schemas['LaidSheetOut'];
export type Spoilt = Schemas['Spoilt'];
export type SpoiltPiece = Schemas['SpoiltPiece'];
export type RunAsked = Schemas['CameOutIn'];
export type Ledger = Schemas['LedgerOut'];
export type LoggedRun = Schemas['RunOut'];
export type Recipe = Schemas['RecipeOut'];
export type Supplies = Schemas['SuppliesOut'];
export type Cost = Schemas['CostOut'];
export type Offcut = Schemas['OffcutOut'];
export type Paper = Schemas['Paper'];
export type Diagnosis = Schemas['DiagnosisOut'];
export type DiagnosisAsked = Schemas['DiagnosisIn'];

const LEDGER = ['ledger'];
const SUPPLIES = ['supplies'];
const OFFCUTS = ['offcuts'];

/** What is still to be asked after a hand-off; read anew when the job or its hand-off changes. */
export const useCameOut = (jobId: number, from: string, wanted: boolean) =>
  useQuery({
    queryKey: ['job', jobId, 'came-out', from],
    enabled: wanted,
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/came-out', { params: { path: { job_id: jobId } } })),
  });

export const useLogOutcome = (jobId: number) =>
  useDoing(
    [['job', jobId], LEDGER],
    (body: RunAsked) =>
      ask(client.POST('/api/jobs/{job_id}/came-out', { params: { path: { job_id: jobId } }, body })),
    { saidInPlace: true },
  );

export const useLedger = () => useQuery({ queryKey: LEDGER, queryFn: () => ask(client.GET('/api/ledger')) });

export const useLookLater = () =>
  useDoing([LEDGER], ({ run, kind, held }: { run: number; kind: Schemas['LaterKind']; held: boolean }) =>
    ask(
      client.POST('/api/ledger/runs/{run_id}/later', {
        params: { path: { run_id: run } },
        body: { kind, held, note: '' },
      }),
    ),
  );

export const useFoundCause = () =>
  useDoing([LEDGER, ['diagnosis']], ({ run, cause }: { run: number; cause: string | null }) =>
    ask(
      client.POST('/api/ledger/runs/{run_id}/cause', { params: { path: { run_id: run } }, body: { cause } }),
    ),
  );

/** A run taught something of nearly everything: all is read again without it. */
export const useRemoveRun = () =>
  useDoing([[]], (run: number) =>
    ask(client.DELETE('/api/ledger/runs/{run_id}', { params: { path: { run_id: run } } })),
  );

export const useTakeRuns = () =>
  useDoing([LEDGER], (file: File) =>
    ask(
      client.POST('/api/ledger/runs', {
        body: { file: '' },
        bodySerializer: () => {
          const form = new FormData();
          form.append('file', file);
          return form;
        },
      }),
    ),
  );

/** What can be seen and known, and what is ticked already of a run. */
export const useDiagnosisStart = (run: number | null, job: number | null) =>
  useQuery({
    queryKey: ['diagnosis', 'start', run, job],
    queryFn: () =>
      ask(
        client.GET('/api/diagnosis', {
          params: { query: { ...(run ? { run } : {}), ...(job ? { job } : {}) } },
        }),
      ),
  });

/** The keys of what can be seen or known that a maker's words mean; undefined while nothing is typed. */
export function useFoundSeen(words: string): string[] | undefined {
  const sought = useDeferredValue(words.trim());
  const found = useQuery({
    queryKey: ['diagnosis', 'found', sought],
    queryFn: () => ask(client.GET('/api/diagnosis/found', { params: { query: { words: sought } } })),
    enabled: sought !== '',
    placeholderData: keepPreviousData,
  });
  return sought === '' ? undefined : found.data;
}

export const useDiagnosis = (asked: DiagnosisAsked) =>
  useQuery({
    queryKey: ['diagnosis', asked],
    enabled: asked.seen.length > 0,
    placeholderData: (before) => before,
    queryFn: () => ask(client.POST('/api/diagnosis', { body: asked })),
  });

/** Make the job of a run once more, as it was; answers with the new job's number. */
export const useMakeAgain = () =>
  useDoing([['jobs']], ({ run, sheets }: { run: number; sheets: number }) =>
    ask(
      client.POST('/api/ledger/runs/{run_id}/again', { params: { path: { run_id: run } }, body: { sheets } }),
    ),
  );

/** The spoilt pieces of a sheet as a picture of it shows them; without a file, as the practice bench made it. */
export const useLookAtPhoto = (jobId: number, sheet: number) =>
  useDoing(
    [],
    ({ file, kind, corners }: { file: File | null; kind: Schemas['PhotoKind']; corners: Corners | null }) => {
      const body = new FormData();
      body.append('kind', kind);
      if (file) body.append('file', file);
      if (corners) body.append('corners', cornersText(corners));
      return ask(
        client.POST('/api/jobs/{job_id}/came-out/{sheet}/photo', {
          params: { path: { job_id: jobId, sheet } },
          body: body as never,
          bodySerializer: (form: unknown) => form as FormData,
        }),
      );
    },
    { saidInPlace: true },
  );

export const useSupplies = () =>
  useQuery({ queryKey: SUPPLIES, queryFn: () => ask(client.GET('/api/supplies')) });

export const useBuy = () =>
  useDoing([SUPPLIES, ['job']], (body: Schemas['Pack']) => ask(client.POST('/api/supplies', { body })));

export const useBuyThing = () =>
  useDoing([SUPPLIES, ['job']], (body: Schemas['Bought']) =>
    ask(client.POST('/api/supplies/things', { body })),
  );

export const useTakeBack = () =>
  useDoing([SUPPLIES, ['job']], (number: number) =>
    ask(client.DELETE('/api/supplies/{number}', { params: { path: { number } } })),
  );

export const useChangeRates = () =>
  useDoing([SUPPLIES, ['job']], (rates: Record<string, number | string>) =>
    ask(client.PUT('/api/supplies/rates', { body: { rates } })),
  );

export const useOffcuts = () =>
  useQuery({ queryKey: OFFCUTS, queryFn: () => ask(client.GET('/api/offcuts')) });

export const useKeepOffcut = () =>
  useDoing([OFFCUTS, ['job']], (body: Schemas['Offcut']) => ask(client.POST('/api/offcuts', { body })), {
    saidInPlace: true,
  });

export const useKeepRest = () =>
  useDoing([OFFCUTS, ['job']], (body: Schemas['RestIn']) => ask(client.POST('/api/offcuts/rest', { body })));

export const useDropOffcut = () =>
  useDoing([OFFCUTS, ['job']], (number: number) =>
    ask(client.DELETE('/api/offcuts/{number}', { params: { path: { number } } })),
  );

/** What is gone of a used sheet, by a picture of it and where its corners are in it. */
export const useLookAtSheet = () =>
  useDoing(
    [],
    (asked: { file: File; width_mm: number; height_mm: number; corners: Corners }) => {
      const body = new FormData();
      body.append('file', asked.file);
      body.append('width_mm', String(asked.width_mm));
      body.append('height_mm', String(asked.height_mm));
      body.append('corners', cornersText(asked.corners));
      return ask(
        client.POST('/api/offcuts/look', {
          body: body as never,
          bodySerializer: (form: unknown) => form as FormData,
        }),
      );
    },
    { saidInPlace: true },
  );

/** What a job costs; read anew whenever what it follows from changes. */
export const useCost = (jobId: number, from: string, wanted = true) =>
  useQuery({
    enabled: wanted,
    queryKey: ['job', jobId, 'cost', from],
    placeholderData: (before) => before,
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/cost', { params: { path: { job_id: jobId } } })),
  });

export const CSV_URL = '/api/ledger/runs.csv';
export const JSON_URL = '/api/ledger/ledger.json';
