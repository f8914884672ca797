/** Pieces in hand: checks while they move, and the actions that move them. */
import { useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';

import { ask, client, type Schemas } from './client';
import { useDoing } from './doing';
import { useNewest } from './newest';
import type { Plan } from './view';

export type HandPiece = Schemas['HandPiece'];
/** An answer, with the question it is about: by the time it is here, the hand is elsewhere. */
export type Checked = Schemas['HandChecked'] & { asked: Schemas['HandCheck'] };
type AnyAction = NonNullable<Parameters<typeof postHand>[1]>;

const postHand = (
  jobId: number,
  body:
    | Schemas['DropPieces']
    | Schemas['Nudge']
    | Schemas['TurnPieces']
    | Schemas['AlignPieces']
    | Schemas['SpacePieces']
    | Schemas['LockPieces']
    | Schemas['SendPieces']
    | Schemas['PlainAction'],
) => ask(client.POST('/api/jobs/{job_id}/hand', { params: { path: { job_id: jobId } }, body }));

/** An action without what every action has: the layout and the sheet in sight. */
type Without<T> = T extends unknown ? Omit<T, 'layout' | 'sheet'> : never;
export type Deed = Without<AnyAction>;

/** Do something to pieces of the sheet in sight; `done` hears where they are afterwards. */
export function useHand(jobId: number, plan: Plan, sheet: number, done: (done: Schemas['HandDone']) => void) {
  const queries = useQueryClient();
  return useDoing(
    [['job', jobId]],
    (deed: Deed) => {
      // Deeds wait for each other; each is done to the layout that the one before it left.
      const newest = queries.getQueryData<{ plan: Plan | null }>(['job', jobId])?.plan ?? plan;
      return postHand(jobId, { ...deed, layout: newest.packing.layout, sheet } as AnyAction);
    },
    { scope: `hand-${jobId}`, done },
  );
}

/** End a search with the layout in sight: whatever came in since would move pieces under the hand. */
export const useTakeUp = (jobId: number) =>
  useDoing([['job', jobId]], (layout: string) =>
    ask(
      client.POST('/api/jobs/{job_id}/take-up', { params: { path: { job_id: jobId }, query: { layout } } }),
    ),
  ).mutate;

/** Ask about pieces in hand while they move. */
export function useHandCheck(jobId: number) {
  const call = useCallback(
    (body: Schemas['HandCheck']) =>
      ask(client.POST('/api/jobs/{job_id}/hand/check', { params: { path: { job_id: jobId } }, body })),
    [jobId],
  );
  const { answer, ask: look, drop: end } = useNewest(call);
  const checked: Checked | null = answer && { ...answer.answer, asked: answer.asked };
  return { checked, look, end };
}
