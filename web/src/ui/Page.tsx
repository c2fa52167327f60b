import { Button, Skeleton, Stack, Text } from '@mantine/core';
import { useNetwork } from '@mantine/hooks';
import { lazy, type ReactNode, Suspense } from 'react';
import { useLocation } from 'react-router';
import { ApiError } from '../api/client';
import { PLACES } from '../places/places';
import classes from './Page.module.css';
import { useTitle } from './useTitle';

// Wanted only where nothing answers: where the part itself cannot be fetched, there is nothing to list.
const SavedHere = lazy(() =>
  import('../roadside/SavedHere').then(
    (m) => ({ default: m.SavedHere }),
    () => ({ default: () => null }),
  ),
);

interface PageProps {
  /** What the window is called. */
  name: string;
  title: ReactNode;
  /** Whether the first line is still to come: on a phone it is kept the room of two. */
  coming?: boolean;
  actions?: ReactNode;
  children: ReactNode;
}

/** A place's first line, what can be done here, and the rest. */
export function Page({ name, title, coming = false, actions, children }: PageProps) {
  useTitle(name);
  return (
    <>
      <header className={classes.head}>
        <h1 className={classes.title} data-coming={coming || undefined}>
          {title}
        </h1>
        <div className={classes.actions}>{actions}</div>
      </header>
      {children}
    </>
  );
}

interface TroubleProps {
  error: Error;
  onRetry?: () => void;
}

/** What went wrong and what to do, in place of what should be here; without a signal, what can be opened. */
export function Trouble({ error, onRetry }: TroubleProps) {
  const { online } = useNetwork();
  const { pathname } = useLocation();
  const silent = error instanceof ApiError && error.status === 0;
  const place = PLACES.find((one) => pathname.startsWith(one.path))?.label ?? 'This page';
  return (
    <Stack align="flex-start" py="lg">
      <Text role="alert">
        {silent && !online ? `You’re offline. ${place} needs a signal.` : error.message}
      </Text>
      {onRetry && <Button onClick={onRetry}>Try again</Button>}
      {silent && (
        <Suspense fallback={null}>
          <SavedHere />
        </Suspense>
      )}
    </Stack>
  );
}

/** Rows in the shape of what is coming. */
export function Waiting({ rows, height }: { rows: number; height: number }) {
  return (
    <Stack gap="md" py="md" aria-busy="true" role="status" aria-label="Loading">
      {Array.from({ length: rows }, (_, row) => `row-${row}`).map((key) => (
        <Skeleton key={key} height={height} radius={2} />
      ))}
    </Stack>
  );
}
