/** Lessons, their plays, and spoilt sheets of free play. */
import { useQuery, useQueryClient } from '@tanstack/react-query';

import { ask, client, type Schemas } from './client';
import { useDoing } from './doing';

export type Practise = Schemas['PractiseOut'];
export type LessonCard = Schemas['LessonOut'];
export type Play = Schemas['PlayOut'];
export type PlayStep = Schemas['PlayStep'];
export type LessonMove = Schemas['OfferedMove'];
export type MadeSheet = Schemas['MadeSheet'];
export type LookPicture = Schemas['LookPicture'];
export type PuzzleLevel = Schemas['PuzzleLevel'];
export type PuzzleAnswer = Schemas['PuzzleAnswerOut'];

const PRACTISE = ['practise'];
const POLL_MS = 700;
const at = (play_id: number) => ({ params: { path: { play_id } } });

export const usePractise = (learner: string) =>
  useQuery({
    queryKey: [...PRACTISE, 'all', learner],
    queryFn: () => ask(client.GET('/api/practise', { params: { query: { learner } } })),
  });

export const useBeginPlay = (done: (id: number) => void) =>
  useDoing([], (body: Schemas['BeginIn']) => ask(client.POST('/api/practise/plays', { body })), {
    done: (answer) => done(answer.id),
  });

/** A play as it stands; asked again while the best way is worked out. */
export const usePlay = (id: number) =>
  useQuery({
    queryKey: [...PRACTISE, 'play', id],
    queryFn: () => ask(client.GET('/api/practise/plays/{play_id}', at(id))),
    refetchInterval: (query) => {
      const after = query.state.data?.afterwards;
      return after && !after.best && !after.problem ? POLL_MS : false;
    },
  });

export function useMove(id: number) {
  const queries = useQueryClient();
  const keep = (play: Play) => queries.setQueryData([...PRACTISE, 'play', id], play);
  return useDoing(
    [[...PRACTISE, 'all']],
    (code: string) => ask(client.POST('/api/practise/plays/{play_id}/moves', { ...at(id), body: { code } })),
    { done: keep, scope: `play-${id}` },
  );
}

export function useGiveUp(id: number) {
  return useDoing(
    [
      [...PRACTISE, 'all'],
      [...PRACTISE, 'play', id],
    ],
    () => ask(client.POST('/api/practise/plays/{play_id}/end', at(id))),
  );
}

export const stepPictureUrl = (id: number, step: number, what: LookPicture) =>
  `/api/practise/plays/${id}/steps/${step}/${what}.jpg`;

export const usePuzzle = (level: PuzzleLevel, seed: number, checked: string[]) =>
  useQuery({
    queryKey: [...PRACTISE, 'puzzle', level, seed, ...checked],
    placeholderData: (before) => before,
    queryFn: () => ask(client.POST('/api/practise/puzzles/look', { body: { level, seed, checked } })),
  });

export const puzzlePictureUrl = (level: PuzzleLevel, seed: number, what: LookPicture) =>
  `/api/practise/puzzles/${level}/${seed}/${what}.jpg`;

export const useAnswer = () =>
  useDoing([[...PRACTISE, 'all']], (body: Schemas['PuzzleAnswerIn']) =>
    ask(client.POST('/api/practise/puzzles/answer', { body })),
  );
