/** What the sensor sees, where cuts land, and what was measured on the job's machines. */
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';

import { ask, client, type Schemas } from './client';
import { useDoing } from './doing';
import { useNewest } from './newest';

export type Reading = Schemas['ReadingOut'];
export type Remedy = Schemas['Remedy'];

const job = (job_id: number) => ({ params: { path: { job_id } } });

/** The reading of a job; read again with the job. */
export const useReading = (jobId: number) =>
  useQuery({
    queryKey: ['job', jobId, 'reading'],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/reading', job(jobId))),
    placeholderData: keepPreviousData,
  });

/** The reading in another light or with other remedies, asked as fast as answers come. */
export function useReadingTrial(jobId: number) {
  const call = useCallback(
    (query: { room?: number; remedies?: Remedy[] }) =>
      ask(client.GET('/api/jobs/{job_id}/reading', { params: { path: { job_id: jobId }, query } })),
    [jobId],
  );
  return useNewest(call);
}

export const useMisses = (jobId: number, layout: string) =>
  useQuery({
    queryKey: ['job', jobId, 'misses', layout],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/misses', job(jobId))),
    placeholderData: keepPreviousData,
  });

export const useCalibration = (jobId: number) =>
  useQuery({
    queryKey: ['job', jobId, 'calibration'],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/calibration', job(jobId))),
  });

export const useArrows = (jobId: number) =>
  useQuery({
    queryKey: ['job', jobId, 'arrows'],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/calibration/arrows', job(jobId))),
  });

export const useFit = (jobId: number) =>
  useDoing([], (readings: Schemas['ScaleReading'][]) =>
    ask(client.POST('/api/jobs/{job_id}/calibration/fit', { ...job(jobId), body: { readings } })),
  );

export const useKeepCalibration = (jobId: number) =>
  useDoing(null, (body: Schemas['KeepCalibration']) =>
    ask(client.POST('/api/jobs/{job_id}/calibration', { ...job(jobId), body })),
  );

export const useForgetCalibration = () =>
  useDoing(null, (number: number) =>
    ask(client.DELETE('/api/calibrations/{number}', { params: { path: { number } } })),
  );

export const useLogMisses = (jobId: number) =>
  useDoing(null, (misses: Schemas['LoggedMiss'][]) =>
    ask(client.POST('/api/jobs/{job_id}/misses', { ...job(jobId), body: { misses } })),
  );

export const useForgetMisses = (jobId: number) =>
  useDoing(null, () => ask(client.DELETE('/api/jobs/{job_id}/misses', job(jobId))));

export const useMachineChanged = (jobId: number) =>
  useDoing(null, (what: Schemas['MachineChange']) =>
    ask(client.POST('/api/jobs/{job_id}/machine-changed', { ...job(jobId), body: { what } })),
  );

export const useFollowSchool = () =>
  useDoing(null, (school: Schemas['CalibrationSchool']) =>
    ask(client.PUT('/api/calibration-school', { body: { school } })),
  );

export const useHelpers = (jobId: number, sheet: number, layout: string) =>
  useQuery({
    queryKey: ['job', jobId, 'helpers', sheet, layout],
    queryFn: () =>
      ask(
        client.GET('/api/jobs/{job_id}/sheets/{sheet}/helpers', {
          params: { path: { job_id: jobId, sheet: sheet + 1 } },
        }),
      ),
  });
