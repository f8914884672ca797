/** Pieces in hand: checks while they move, and the actions that move them. */
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useCallback, useRef, useState } from 'react';

import { useLook } from '../app/look';
import { useNotices } from '../app/notices';
import { ask, client, type Plan, type Schemas } from './client';

export type HandPiece = Schemas['HandPiece'];
/** An answer, with the question it is about: by the time it is here, the hand is elsewhere. */
export type Checked = Schemas['HandChecked'] & { asked: Schemas['HandCheck'] };
type AnyAction = NonNullable<Parameters<typeof postHand>[1]>;

const postHand = (
  jobId: number,
  body:
    | Schemas['Drop']
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

/** Do something to pieces of the sheet in sight; afterwards the same pieces are in hand. */
export function useHand(jobId: number, plan: Plan, sheet: number) {
  const queries = useQueryClient();
  const tell = useNotices((state) => state.tell);
  const takeUp = useLook((state) => state.takeUp);
  const showSheet = useLook((state) => state.showSheet);
  return useMutation({
    scope: { id: `hand-${jobId}` },
    mutationFn: async (deed: Deed) => {
      // Deeds wait for each other; each is done to the layout that the one before it left.
      const newest = queries.getQueryData<{ plan: Plan | null }>(['job', jobId])?.plan ?? plan;
      const done = await postHand(jobId, { ...deed, layout: newest.packing.layout, sheet } as AnyAction);
      await queries.invalidateQueries({ queryKey: ['job', jobId] });
      return done;
    },
    onSuccess: (done) => {
      if (done.sheet !== sheet) showSheet(done.sheet);
      takeUp(done.indexes);
      if (done.note) tell(done.note);
    },
    onError: (error) => tell(error.message),
  });
}

/** End a search with the layout in sight: whatever came in since would move pieces under the hand. */
export function useTakeUp(jobId: number) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (layout: string) =>
      ask(
        client.POST('/api/jobs/{job_id}/take-up', { params: { path: { job_id: jobId }, query: { layout } } }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['job', jobId] }),
  }).mutate;
}

/** Ask about pieces in hand as often as answers come: one question at a time, always the newest. */
export function useHandCheck(jobId: number) {
  const [checked, setChecked] = useState<Checked | null>(null);
  const waiting = useRef<Schemas['HandCheck'] | null>(null);
  const busy = useRef(false);
  const over = useRef(true);
  const look = useCallback(
    (question: Schemas['HandCheck']) => {
      over.current = false;
      waiting.current = question;
      const drain = async () => {
        if (busy.current) return;
        busy.current = true;
        try {
          while (waiting.current) {
            const body = waiting.current;
            waiting.current = null;
            const answer = await ask(
              client.POST('/api/jobs/{job_id}/hand/check', { params: { path: { job_id: jobId } }, body }),
            );
            if (!over.current) setChecked({ ...answer, asked: body });
          }
        } catch {
          // A drop says what is wrong; while moving, silence is enough.
          setChecked(null);
        } finally {
          busy.current = false;
        }
      };
      void drain();
    },
    [jobId],
  );
  const end = useCallback(() => {
    over.current = true;
    waiting.current = null;
    setChecked(null);
  }, []);
  return { checked, look, end };
}
