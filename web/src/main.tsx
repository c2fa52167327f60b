import './theme/library.css';
import '@mantine/notifications/styles.css';
import './theme/mantine.css';
import './theme/fonts.css';
import './theme/tokens.css';
import { MantineProvider } from '@mantine/core';
import { Notifications } from '@mantine/notifications';
import { QueryCache, QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter } from 'react-router';
import { App } from './App';
import { ApiError } from './api/client';
import { sessionQuery, testQuery, tracesQuery } from './api/queries';
import { keepApplication } from './device/registered';
import { loadAhead } from './places/parts';
import { scheme } from './theme/scheme';
import { theme } from './theme/theme';
import { Boundary } from './ui/Boundary';

const queryClient: QueryClient = new QueryClient({
  queryCache: new QueryCache({
    onError: (error, { queryKey }) => {
      // The sign-in has lapsed: asked once, so that the page can say so and ask for the password.
      if (error instanceof ApiError && error.status === 401 && queryKey[0] !== 'session') {
        queryClient.invalidateQueries({ queryKey: sessionQuery.queryKey });
      }
    },
  }),
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
loadAhead(window.location.pathname);
keepApplication();

const root = document.getElementById('root');
if (root === null) throw new Error('index.html has no #root');
createRoot(root).render(
  <StrictMode>
    <MantineProvider theme={theme} defaultColorScheme="auto" colorSchemeManager={scheme}>
      <Notifications position="top-center" limit={3} />
      <Boundary whole>
        <QueryClientProvider client={queryClient}>
          <BrowserRouter>
            <App />
          </BrowserRouter>
        </QueryClientProvider>
      </Boundary>
    </MantineProvider>
  </StrictMode>,
);
