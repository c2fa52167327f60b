import { MantineProvider } from '@mantine/core';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, render } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactNode } from 'react';
import { MemoryRouter, useLocation } from 'react-router';
import { afterEach } from 'vitest';
import { theme } from '../theme/theme';

afterEach(() => {
  cleanup();
  localStorage.clear();
});

// What a document without a window lacks, and the library asks for: its answers change no words.
window.matchMedia ??= ((query: string) => ({
  matches: false,
  media: query,
  onchange: null,
  addEventListener: () => undefined,
  removeEventListener: () => undefined,
  addListener: () => undefined,
  removeListener: () => undefined,
  dispatchEvent: () => false,
})) as typeof window.matchMedia;
window.ResizeObserver ??= class {
  observe() {}
  unobserve() {}
  disconnect() {}
};
Element.prototype.scrollIntoView ??= () => undefined;

/** The address that a piece has gone to, for its test to read. */
function Address() {
  const { pathname, search } = useLocation();
  return <output aria-label="address">{pathname + search}</output>;
}

/**
 * Draws a piece of the page as the application does, with what the server would have told in `known`.
 * Nothing is asked of a server: what is not known stays unknown.
 */
export function draw(
  piece: ReactNode,
  known: ReadonlyArray<readonly [readonly unknown[], unknown]> = [],
) {
  const client = new QueryClient({
    defaultOptions: { queries: { staleTime: Number.POSITIVE_INFINITY, retry: false } },
  });
  for (const [key, value] of known) client.setQueryData([...key], value);
  const user = userEvent.setup();
  render(
    <MantineProvider theme={theme} env="test">
      <QueryClientProvider client={client}>
        <MemoryRouter>
          {piece}
          <Address />
        </MemoryRouter>
      </QueryClientProvider>
    </MantineProvider>,
  );
  return user;
}
