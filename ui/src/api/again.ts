/**
 * Read again what is kept under a key, after the server was told something.
 *
 * What is just being read for the first time may be answered as it was before, and the library would let that stand:
 * it is read once more when that answer is there.
 */
import type { QueryClient } from '@tanstack/react-query';

export async function readAgain(queries: QueryClient, queryKey: readonly unknown[] = [], exact = false) {
  const asked = { queryKey, exact };
  const isFirst = queries
    .getQueryCache()
    .findAll({ ...asked, fetchStatus: 'fetching' })
    .some((query) => query.state.data === undefined);
  await queries.invalidateQueries(asked);
  if (isFirst) await queries.invalidateQueries(asked);
}
