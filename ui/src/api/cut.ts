/** The window of force with its ladders, the way of the blade, blades and mats. */
import { keepPreviousData, useQuery } from '@tanstack/react-query';

import { ask, client, type Schemas } from './client';
import { useDoing } from './doing';

export type Force = Schemas['ForceOut'];
export type Cut = Schemas['Cut'];
export type Outcome = Schemas['Outcome'];
export type Ladder = Schemas['CutRecordOut'];
export type Replay = Schemas['ReplayOut'];
export type Care = Schemas['WorkshopCareOut'];
export type Settings = Schemas['SettingsOut'];
export type NamedSetting = Schemas['NamedSettingOut'];
export type Pressure = Schemas['Pressure'];

export const EVERY_PRESSURE: Pressure[] = ['less', 'usual', 'more'];

const job = (job_id: number) => ({ params: { path: { job_id } } });

/** The window of force of a cut; `passes` asks how it would be in others than are set. */
export const useForce = (jobId: number, cut: Cut, passes: number | null) =>
  useQuery({
    meta: { told: true },
    queryKey: ['job', jobId, 'force', cut, passes],
    queryFn: () =>
      ask(
        client.GET('/api/jobs/{job_id}/force', {
          params: { path: { job_id: jobId }, query: { cut, ...(passes ? { passes } : {}) } },
        }),
      ),
    placeholderData: keepPreviousData,
  });

export const useBeginLadder = (jobId: number) =>
  useDoing([['job', jobId]], (body: Schemas['LadderIn']) =>
    ask(client.POST('/api/jobs/{job_id}/ladders', { ...job(jobId), body })),
  );

export const useJudge = (jobId: number) =>
  useDoing([['job', jobId]], (one: { record: number; drop: number; outcome: Outcome | null }) =>
    ask(
      client.PUT('/api/jobs/{job_id}/records/{record_id}/drops/{drop}', {
        params: { path: { job_id: jobId, record_id: one.record, drop: one.drop } },
        body: { outcome: one.outcome },
      }),
    ),
  );

export const useForgetRecord = (jobId: number) =>
  useDoing([['job', jobId]], (record_id: number) =>
    ask(
      client.DELETE('/api/jobs/{job_id}/records/{record_id}', {
        params: { path: { job_id: jobId, record_id } },
      }),
    ),
  );

export const useAddReading = (jobId: number) =>
  useDoing([['job', jobId]], (body: Schemas['CutReadingIn']) =>
    ask(client.POST('/api/jobs/{job_id}/readings', { ...job(jobId), body })),
  );

export const useLogRun = (jobId: number) =>
  useDoing(null, (body: Schemas['RunIn']) =>
    ask(client.POST('/api/jobs/{job_id}/runs', { ...job(jobId), body })),
  );

export interface Offcut {
  width_mm: number;
  height_mm: number;
}

export const useLadderPlace = (
  jobId: number,
  sheet: number,
  layout: string,
  before: number | null,
  offcut: Offcut | null,
) =>
  useQuery({
    queryKey: ['job', jobId, 'ladder-place', sheet, layout, before, offcut],
    enabled: before !== null,
    queryFn: () =>
      ask(
        client.GET('/api/jobs/{job_id}/sheets/{sheet}/ladder-place', {
          params: {
            path: { job_id: jobId, sheet: sheet + 1 },
            query: { before: before ?? 0, ...(offcut ?? {}) },
          },
        }),
      ),
  });

/** The files of a ladder, each by its kind. */
export function ladderFile(
  jobId: number,
  sheet: number,
  record: number,
  kind: string,
  offcut: Offcut | null,
) {
  const size = offcut ? `?width_mm=${offcut.width_mm}&height_mm=${offcut.height_mm}` : '';
  return `/api/jobs/${jobId}/sheets/${sheet + 1}/ladder-${record}.${kind}${size}`;
}

export const useReplay = (jobId: number, sheet: number, layout: string) =>
  useQuery({
    meta: { told: true },
    queryKey: ['job', jobId, 'replay', sheet, layout],
    queryFn: () =>
      ask(
        client.GET('/api/jobs/{job_id}/sheets/{sheet}/replay', {
          params: { path: { job_id: jobId, sheet: sheet + 1 } },
        }),
      ),
    placeholderData: keepPreviousData,
  });

/** The settings of the machine's own list, with what is proposed of them for a cut. */
export const useSettings = (jobId: number, cut: Cut) =>
  useQuery({
    meta: { told: true },
    queryKey: ['job', jobId, 'settings', cut],
    queryFn: () =>
      ask(client.GET('/api/jobs/{job_id}/settings', { params: { path: { job_id: jobId }, query: { cut } } })),
    placeholderData: keepPreviousData,
  });

export const useTypeSettings = (jobId: number) =>
  useDoing(null, (body: Schemas['TypedIn']) =>
    ask(client.POST('/api/jobs/{job_id}/settings', { ...job(jobId), body })),
  );

export const useChangeSetting = (jobId: number) =>
  useDoing(null, (body: Schemas['SettingChangeIn']) =>
    ask(client.PUT('/api/jobs/{job_id}/settings', { ...job(jobId), body })),
  );

export const usePlaceSetting = (jobId: number) =>
  useDoing(null, (body: Schemas['SettingPlaceIn']) =>
    ask(client.PUT('/api/jobs/{job_id}/settings/place', { ...job(jobId), body })),
  );

export const useTellSetting = (jobId: number) =>
  useDoing(null, (body: Schemas['SettingToldIn']) =>
    ask(client.POST('/api/jobs/{job_id}/settings/told', { ...job(jobId), body })),
  );

export const useCare = (jobId: number) =>
  useQuery({
    meta: { told: true },
    queryKey: ['job', jobId, 'care'],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/care', job(jobId))),
  });

const thing = (number: number) => ({ params: { path: { number } } });

export const useKeepBlade = () =>
  useDoing(null, async ({ id, ...body }: Schemas['BladeProfile'] & { id: number | null }) => {
    if (id === null) await ask(client.POST('/api/blades', { body }));
    else await ask(client.PUT('/api/blades/{number}', { ...thing(id), body }));
  });
export const useKeepMat = () =>
  useDoing(null, async ({ id, ...body }: Schemas['MatProfile'] & { id: number | null }) => {
    if (id === null) await ask(client.POST('/api/mats', { body }));
    else await ask(client.PUT('/api/mats/{number}', { ...thing(id), body }));
  });
export const usePutIn = (kind: 'blades' | 'mats') =>
  useDoing(null, async (at: { id: number; cutter_id: number }) => {
    const body = { cutter_id: at.cutter_id };
    if (kind === 'blades') await ask(client.POST('/api/blades/{number}/put-in', { ...thing(at.id), body }));
    else await ask(client.POST('/api/mats/{number}/put-in', { ...thing(at.id), body }));
  });
export const useRemoveThing = (kind: 'blades' | 'mats') =>
  useDoing(null, async (id: number) => {
    if (kind === 'blades') await ask(client.DELETE('/api/blades/{number}', thing(id)));
    else await ask(client.DELETE('/api/mats/{number}', thing(id)));
  });
export const useWashed = () =>
  useDoing(null, (id: number) => ask(client.POST('/api/mats/{number}/washed', thing(id))));

/** The steps of a job at the bench. */
export const useBench = (jobId: number) =>
  useQuery({
    queryKey: ['job', jobId, 'bench'],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/bench', job(jobId))),
  });
