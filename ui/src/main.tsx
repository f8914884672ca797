import './styles.css';

import { QueryCache, QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';

import { readAgain } from './api/again';
import { NoAnswer, NotNow } from './api/client';
import { useNotices } from './api/notices';
import { readUnit } from './app/unit';
import { App } from './app/App';
import { useUnit } from './kit/units';
import { asSentence } from './kit/words';

// What is asked while Vamper does not answer is asked until it does; the foot of the page says so meanwhile.
const AGAIN_MS = 2000;
const queries = new QueryClient({
  queryCache: new QueryCache({
    // What has no place of its own to say why it is not there says it at the foot of the page.
    onError: (error, query) => {
      if (query.meta?.['told'] || error instanceof NotNow) return;
      useNotices.getState().tell(asSentence(error.message));
    },
  }),
  defaultOptions: {
    queries: {
      // Vamper runs on this machine: it is there without any network.
      networkMode: 'always',
      retry: (failures, error) => {
        if (!(error instanceof NoAnswer)) return failures < 1;
        if (failures > 0) useNotices.getState().tell(`${error.message} It is asked again until it does.`);
        return true;
      },
      retryDelay: (_failures, error) => (error instanceof NoAnswer ? AGAIN_MS : 500),
      refetchOnWindowFocus: true,
    },
    mutations: { networkMode: 'always' },
  },
});
// Sentences come from the server, in the unit that is in use.
useUnit.subscribe((now, before) => {
  if (now.unit !== before.unit) void readAgain(queries);
});
const root = document.getElementById('root');
const draw = () => {
  if (!root) return;
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <App />
      </QueryClientProvider>
    </StrictMode>,
  );
};
// Where nobody answers, the page says so itself.
readUnit().then(draw, draw);
