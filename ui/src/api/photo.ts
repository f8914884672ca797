/** Photos and scans of what was made, held against the plan. */
import { useQuery, useQueryClient } from '@tanstack/react-query';

import { ask, client, type Schemas } from './client';
import { useDoing } from './doing';

export type PhotoCheck = Schemas['PhotoCheckOut'];
export type PhotoKind = Schemas['PhotoKind'];
export type Corners = readonly (readonly [number, number])[];

/** Corners as they are sent. */
export const cornersText = (corners: Corners) =>
  corners
    .flat()
    .map((at) => at.toFixed(5))
    .join(',');

export interface Photo {
  file: File;
  kind: PhotoKind;
  ppi: number | null;
  corners: Corners | null;
}

const key = (jobId: number) => ['photo', jobId];

/** What the last picture of a job told. */
export const usePhotoCheck = (jobId: number) =>
  useQuery({
    queryKey: key(jobId),
    queryFn: () =>
      ask(client.GET('/api/jobs/{job_id}/photo', { params: { path: { job_id: jobId } } })).then(
        (found) => found ?? null,
      ),
  });

/** Hold a picture against a sheet (from 0). */
export function useCheckPhoto(jobId: number, sheet: number) {
  const queries = useQueryClient();
  return useDoing(
    [],
    (photo: Photo) => {
      const body = new FormData();
      body.append('file', photo.file);
      body.append('kind', photo.kind);
      if (photo.ppi !== null) body.append('ppi', String(photo.ppi));
      if (photo.corners) body.append('corners', cornersText(photo.corners));
      return ask(
        client.POST('/api/jobs/{job_id}/sheets/{sheet}/photo', {
          params: { path: { job_id: jobId, sheet: sheet + 1 } },
          body: body as never,
          bodySerializer: (form: unknown) => form as FormData,
        }),
      );
    },
    { saidInPlace: true, done: (found) => queries.setQueryData(key(jobId), found) },
  );
}

/** The same with a sample picture that the simulated devices draw. */
export function useCheckSample(jobId: number, sheet: number) {
  const queries = useQueryClient();
  return useDoing(
    [],
    (kind: PhotoKind) =>
      ask(
        client.POST('/api/jobs/{job_id}/sheets/{sheet}/sample', {
          params: { path: { job_id: jobId, sheet: sheet + 1 } },
          body: { kind },
        }),
      ),
    { done: (found) => queries.setQueryData(key(jobId), found) },
  );
}

export const photoUrl = (jobId: number, number: number) => `/api/jobs/${jobId}/photo/${number}.jpg`;
export const sampleUrl = (jobId: number, sheet: number, kind: PhotoKind) =>
  `/api/jobs/${jobId}/sheets/${sheet + 1}/sample-${kind}.jpg`;
