/** What is asked of the server, in its three states: on its way, refused with a sentence and a way to ask again, there. */
import type { UseQueryResult } from '@tanstack/react-query';
import type { ReactNode } from 'react';

import { Button } from '../kit/Button';
import { asSentence } from '../kit/words';

interface Props<T> {
  query: Pick<UseQueryResult<T>, 'data' | 'error' | 'refetch' | 'isFetching'>;
  /** What is said while it is on its way. */
  doing: string;
  className?: string;
  children: (data: T) => ReactNode;
}

export function Loaded<T>({ query, doing, className = '', children }: Props<T>) {
  if (query.data !== undefined) return <>{children(query.data)}</>;
  if (query.error)
    return (
      <div className={`flex flex-col items-start gap-2 ${className}`} role="alert">
        <p className="text-rowan">{asSentence(query.error.message)}</p>
        <Button onClick={() => void query.refetch()} disabled={query.isFetching}>
          Ask again
        </Button>
      </div>
    );
  return (
    <p className={`text-soft ${className}`} aria-busy>
      {doing} …
    </p>
  );
}
