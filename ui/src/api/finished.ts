/** Finished pieces on hand, and coats and laminates side by side. */
import { useQuery } from '@tanstack/react-query';

import { ask, client, type Schemas } from './client';
import { useDoing } from './doing';

export type CoverRecord = Schemas['CoverRecord'];

export const useFinished = () =>
  useQuery({ queryKey: ['finished'], queryFn: () => ask(client.GET('/api/finished')) });

export const useCountFinished = () =>
  useDoing([['finished']], (body: Schemas['FinishedIn']) => ask(client.POST('/api/finished', { body })));

export const useCovers = () =>
  useQuery({ queryKey: ['covers'], queryFn: () => ask(client.GET('/api/covers')) });
