/** Runs, what they say of each setting, and what went wrong. */
import { useQuery } from '@tanstack/react-query';

import { ask, client, type Schemas } from './client';
import { useDoing } from './doing';

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
export type Diagnosis = Schemas['DiagnosisOut'];
export type DiagnosisAsked = Schemas['DiagnosisIn'];

const LEDGER = ['ledger'];
const SUPPLIES = ['supplies'];

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

export const useDiagnosis = (asked: DiagnosisAsked) =>
  useQuery({
    queryKey: ['diagnosis', asked],
    enabled: asked.seen.length > 0,
    placeholderData: (before) => before,
    queryFn: () => ask(client.POST('/api/diagnosis', { body: asked })),
  });

export const useSupplies = () =>
  useQuery({ queryKey: SUPPLIES, queryFn: () => ask(client.GET('/api/supplies')) });

export const useBuy = () =>
  useDoing([SUPPLIES, ['job']], (body: Schemas['Pack']) => ask(client.POST('/api/supplies', { body })));

export const useTakeBack = () =>
  useDoing([SUPPLIES, ['job']], (pack_id: number) =>
    ask(client.DELETE('/api/supplies/{pack_id}', { params: { path: { pack_id } } })),
  );

export const useChangeRates = () =>
  useDoing([SUPPLIES, ['job']], (rates: Record<string, number | string>) =>
    ask(client.PUT('/api/supplies/rates', { body: { rates } })),
  );

/** What a job costs; read anew whenever what it follows from changes. */
export const useCost = (jobId: number, from: string) =>
  useQuery({
    queryKey: ['job', jobId, 'cost', from],
    placeholderData: (before) => before,
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/cost', { params: { path: { job_id: jobId } } })),
  });

export const CSV_URL = '/api/ledger/runs.csv';
export const JSON_URL = '/api/ledger/ledger.json';
