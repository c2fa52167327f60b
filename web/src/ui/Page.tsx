import { Button, Skeleton, Stack, Text } from '@mantine/core';
import type { ReactNode } from 'react';
import classes from './Page.module.css';
import { useTitle } from './useTitle';

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

/** What went wrong and what to do, in place of what should be here. */
export function Trouble({ error, onRetry }: TroubleProps) {
  return (
    <Stack role="alert" align="flex-start" py="lg">
      <Text>{error.message}</Text>
      {onRetry && <Button onClick={onRetry}>Try again</Button>}
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
