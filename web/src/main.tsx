import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource-variable/atkinson-hyperlegible-mono';
import '@mantine/core/styles.css';
import '@mantine/spotlight/styles.css';
import './theme/mantine.css';
import './theme/tokens.css';
import { MantineProvider } from '@mantine/core';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter } from 'react-router';
import { App } from './App';
import { ApiError } from './api/client';
import { testQuery, tracesQuery } from './api/queries';
import { theme } from './theme/theme';

const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 10_000,
      // A refusal stays a refusal; only silence is worth asking again.
      retry: (count, error) => count < 2 && error instanceof ApiError && error.status === 0,
      networkMode: 'always',
    },
    mutations: { networkMode: 'always' },
  },
});

// Whoever comes straight to a test need not wait for the charts to be loaded before it is asked for.
const direct = window.location.pathname.match(/^\/tests\/([^/]+)/)?.[1];
if (direct !== undefined) {
  queryClient.prefetchQuery(testQuery(direct));
  queryClient.prefetchQuery(tracesQuery(direct, null));
}

const root = document.getElementById('root');
if (root === null) throw new Error('index.html has no #root');
createRoot(root).render(
  <StrictMode>
    <MantineProvider theme={theme} defaultColorScheme="auto">
      <QueryClientProvider client={queryClient}>
        <BrowserRouter>
          <App />
        </BrowserRouter>
      </QueryClientProvider>
    </MantineProvider>
  </StrictMode>,
);
