/** Who leads the cut, and what is known of and handed to the machine's own program. */
import { keepPreviousData, useQuery } from '@tanstack/react-query';

import { ask, client, type Schemas } from './client';
import { useDoing } from './doing';

export type ProgramView = Schemas['ProgramOut'];
export type ProgramFacts = Schemas['Program'];
export type ProgramMarks = Schemas['ProgramMarks'];
export type Route = Schemas['Route'];

const cutter = (number: number) => ({ params: { path: { number } } });

/** What to give to the machine's own program; null where cut files lead the cut. */
export const useProgram = (jobId: number, layout: string) =>
  useQuery({
    meta: { told: true },
    queryKey: ['job', jobId, 'program', layout],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/program', { params: { path: { job_id: jobId } } })),
    placeholderData: keepPreviousData,
  });

export const useChooseRoute = () =>
  useDoing(null, ({ id, route }: { id: number; route: Route }) =>
    ask(client.PUT('/api/cutters/{number}/route', { ...cutter(id), body: { route } })),
  );

export const useTellProgram = (cutterId: number) =>
  useDoing(null, (facts: ProgramFacts) =>
    ask(client.PUT('/api/cutters/{number}/program', { ...cutter(cutterId), body: { facts } })),
  );

export const useTellCalibrated = (cutterId: number) =>
  useDoing(null, (made: Schemas['ProgramCalibration']) =>
    ask(client.POST('/api/cutters/{number}/program/calibrated', { ...cutter(cutterId), body: { made } })),
  );

/** The marks as a flat scan of one print shows them. */
export const useScanMarks = (jobId: number) =>
  useDoing([], (file: File): Promise<ProgramMarks> => {
    const body = new FormData();
    body.append('file', file);
    return ask(
      client.POST('/api/jobs/{job_id}/program/marks-scan', {
        params: { path: { job_id: jobId } },
        body: body as never,
        bodySerializer: (form: unknown) => form as FormData,
      }),
    );
  });
