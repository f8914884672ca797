import './styles.css';

import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';

import { readAgain } from './api/again';
import { NoAnswer } from './api/client';
import { useNotices } from './api/notices';
import { App } from './app/App';
import { useUnit } from './kit/units';

// What is asked while Vamper does not answer is asked until it does; the foot of the page says so meanwhile.
const AGAIN_MS = 2000;
const queries = new QueryClient({
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
useUnit.subscribe(() => void readAgain(queries));
const root = document.getElementById('root');
if (root)
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <App />
      </QueryClientProvider>
    </StrictMode>,
  );
