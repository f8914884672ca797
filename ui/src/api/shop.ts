/** The workshop's machines; where one is changed, every open job and list of choices is read again. */
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue } from 'react';

import { ask, client, type Schemas } from './client';
import { useDoing } from './doing';

export const useStocks = () =>
  useQuery({ queryKey: ['stocks'], queryFn: () => ask(client.GET('/api/stocks')) });
/** The keys of the stocks that a maker's words mean; undefined until that is known, and where nothing is sought. */
export function useFoundStocks(words: string): string[] | undefined {
  const sought = useDeferredValue(words.trim());
  return useQuery({
    queryKey: ['stocks found', sought],
    queryFn: () => ask(client.GET('/api/stocks/found', { params: { query: { words: sought } } })),
    enabled: sought !== '',
    placeholderData: keepPreviousData,
  }).data;
}
export const useProposeStock = () =>
  useDoing([], (body: Schemas['NewStock']) => ask(client.POST('/api/stocks/proposed', { body })));
export const useKeepStock = () =>
  useDoing(null, async ({ key, stock }: { key: string | null; stock: Schemas['Stock'] }) => {
    if (key === null) return (await ask(client.POST('/api/stocks', { body: stock }))).key;
    await ask(client.PUT('/api/stocks/{key}', { params: { path: { key } }, body: stock }));
    return key;
  });
export const useHideStock = () =>
  useDoing(null, ({ key, hidden }: { key: string; hidden: boolean }) =>
    ask(client.PUT('/api/stocks/{key}/hidden', { params: { path: { key } }, body: { hidden } })),
  );
export const useRemoveStock = () =>
  useDoing(null, (key: string) => ask(client.DELETE('/api/stocks/{key}', { params: { path: { key } } })));

export const usePrinters = () =>
  useQuery({ queryKey: ['printers'], queryFn: () => ask(client.GET('/api/printers')) });
export const useCutters = () =>
  useQuery({ queryKey: ['cutters'], queryFn: () => ask(client.GET('/api/cutters')) });

export const useKeepPrinter = () =>
  useDoing(null, ({ id, profile }: { id: number | null; profile: Schemas['PrinterProfile'] }) =>
    id === null
      ? ask(client.POST('/api/printers', { body: profile }))
      : ask(client.PUT('/api/printers/{number}', { params: { path: { number: id } }, body: profile })),
  );
export const useKeepCutter = () =>
  useDoing(null, ({ id, profile }: { id: number | null; profile: Schemas['CutterProfile'] }) =>
    id === null
      ? ask(client.POST('/api/cutters', { body: profile }))
      : ask(client.PUT('/api/cutters/{number}', { params: { path: { number: id } }, body: profile })),
  );
export const useRemoveMachine = (kind: 'printers' | 'cutters') =>
  useDoing(null, async (number: number) => {
    await ask(
      client.DELETE(kind === 'printers' ? '/api/printers/{number}' : '/api/cutters/{number}', {
        params: { path: { number } },
      }),
    );
    return undefined;
  });

/** The machines that new jobs are made on, as far as the maker named them. */
export const useUsual = () => useQuery({ queryKey: ['usual'], queryFn: () => ask(client.GET('/api/usual')) });
export const usePutUsual = () =>
  useDoing([['usual']], (usual: Schemas['Usual']) => ask(client.PUT('/api/usual', { body: usual })));

/** What a machine's own program said to a picture of a size. */
export const useTellGranted = (cutterId: number) =>
  useDoing(null, (answer: Schemas['GrantedAnswer']) =>
    ask(
      client.POST('/api/cutters/{number}/granted', { params: { path: { number: cutterId } }, body: answer }),
    ),
  );
export const useForgetGranted = (cutterId: number) =>
  useDoing(null, (paper: Schemas['Paper']) =>
    ask(
      client.POST('/api/cutters/{number}/granted/forget', {
        params: { path: { number: cutterId } },
        body: paper,
      }),
    ),
  );
