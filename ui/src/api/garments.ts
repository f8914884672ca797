/** How wide motifs are on what is worn: the maker's own table. */
import { useQuery } from '@tanstack/react-query';

import { ask, client, type Schemas } from './client';
import { useDoing } from './doing';

export type Garment = Schemas['Garment'];

export const useGarments = () =>
  useQuery({ queryKey: ['garments'], queryFn: () => ask(client.GET('/api/garments')) });

export const useKeepGarments = () =>
  useDoing([['garments']], (body: Garment[]) => ask(client.PUT('/api/garments', { body })));
