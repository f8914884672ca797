/** Dry runs on the simulated devices. */
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';

import { readAgain } from './again';
import { ask, client, type Schemas } from './client';
import { useDoing } from './doing';

export type DryRun = Schemas['DryRunOut'];
export type Outcome = Schemas['TwinOutcomeOut'];
export type TwinPiece = Schemas['TwinPieceOut'];
export type Spoiling = Schemas['Spoiling'];
export type FaultKey = Schemas['FaultKey'];
export type Asked = Schemas['DryRunIn'];

const POLL_MS = 400;
const job = (job_id: number) => ({ params: { path: { job_id } } });

/** How a job's dry run stands; asked often while one runs, and the rail is read again when it is done. */
export function useDryRun(jobId: number) {
  const queries = useQueryClient();
  const query = useQuery({
    queryKey: ['job', jobId, 'dry-run'],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/dry-run', job(jobId))),
    refetchInterval: (one) => (one.state.data?.running ? POLL_MS : false),
  });
  const running = query.data?.running ?? false;
  const was = useRef(false);
  useEffect(() => {
    if (was.current && !running) void readAgain(queries, ['job', jobId], true);
    was.current = running;
  }, [running, queries, jobId]);
  return query;
}

export const useBeginDryRun = (jobId: number) =>
  useDoing([['job', jobId, 'dry-run']], (body: Asked) =>
    ask(client.POST('/api/jobs/{job_id}/dry-run', { ...job(jobId), body })),
  );

export const useStopDryRun = (jobId: number) =>
  useDoing([['job', jobId, 'dry-run']], () => ask(client.DELETE('/api/jobs/{job_id}/dry-run', job(jobId))));

export const useFaults = () =>
  useQuery({
    queryKey: ['faults'],
    queryFn: () => ask(client.GET('/api/faults')),
    staleTime: Infinity,
  });

/** A sheet (from 0) of a dry run as a scan, or the part of it in a box (mm). */
export function resultUrl(jobId: number, number: number, sheet: number, ppi: number, box?: Schemas['Place']) {
  const part = box
    ? `&box=${[box.x_mm, box.y_mm, box.width_mm, box.height_mm].map((side) => side.toFixed(2)).join(',')}`
    : '';
  return `/api/jobs/${jobId}/dry-run/sheets/${sheet + 1}/result.jpg?number=${number}&ppi=${ppi}${part}`;
}

/** Make the job on the workshop's simulated machines. */
export const usePractise = (jobId: number) =>
  useDoing(null, () => ask(client.POST('/api/jobs/{job_id}/practice', job(jobId))));

type Box = Schemas['Place'];

/** Part of the vernier sheet as the practice machines made it. */
export const practiceVernierUrl = (jobId: number, box: Box) =>
  `/api/jobs/${jobId}/practice/vernier.jpg?box=${[box.x_mm, box.y_mm, box.width_mm, box.height_mm].join(',')}`;

export const practiceDropUrl = (jobId: number, record: number, drop: number) =>
  `/api/jobs/${jobId}/practice/records/${record}/drops/${drop}.jpg`;

export const practiceBarUrl = (jobId: number, side: 'across' | 'down') =>
  `/api/jobs/${jobId}/practice/bar-${side}.jpg`;
