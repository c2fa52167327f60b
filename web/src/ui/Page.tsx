import { Button, Skeleton, Stack } from '@mantine/core';
import { useNetwork } from '@mantine/hooks';
import { lazy, type ReactNode, Suspense } from 'react';
import { Link, useLocation } from 'react-router';
import { ApiError } from '../api/client';
import { PLACES } from '../places/places';
import { say } from '../words/en/ui.ftl';
import classes from './Page.module.css';
import { openPalette } from './palette';
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
  /** Whether it stands in the place of a whole page, which has a first line then. */
  whole?: boolean;
}

/** What went wrong and what to do, in place of what should be here; without a signal, what can be opened. */
export function Trouble({ error, onRetry, whole = false }: TroubleProps) {
  const { online } = useNetwork();
  const { pathname } = useLocation();
  const status = error instanceof ApiError ? error.status : null;
  const silent = status === 0;
  const gone = status === NOT_FOUND;
  const place = PLACES.find((one) => pathname.startsWith(one.path))?.label ?? say('this-page');
  const said = silent && !online ? say('youre-offline-needs-a-signal', { place }) : error.message;
  return (
    <Stack align="flex-start" py="lg">
      <div role="alert">{whole ? <h1 className={classes.title}>{said}</h1> : said}</div>
      {onRetry && !gone && <Button onClick={onRetry}>{say('try-again')}</Button>}
      {gone && <WaysOn />}
      {silent && (
        <Suspense fallback={null}>
          <SavedHere />
        </Suspense>
      )}
    </Stack>
  );
}

const NOT_FOUND = 404;

/** At an address that there is not: what there is. */
export function NoPage() {
  useTitle(say('not-found'));
  return (
    <Stack align="flex-start" py="lg">
      <div role="alert">
        <h1 className={classes.title}>{say('there-is-no-page-at')}</h1>
      </div>
      <p>{say('it-may-have-been-mistyped')}</p>
      <WaysOn />
    </Stack>
  );
}

/** From a dead end: by name, or to any place. */
function WaysOn() {
  return (
    <nav aria-label={say('ways-on')}>
      <Stack align="flex-start" gap="xs">
        <Button variant="filled" onClick={openPalette}>
          {say('find-it-by-name')}
        </Button>
        {PLACES.map(({ path, label, about }) => (
          <span key={path}>
            <Link to={path}>{label}</Link>: {about}
          </span>
        ))}
      </Stack>
    </nav>
  );
}

/** Rows in the shape of what is coming. */
export function Waiting({ rows, height }: { rows: number; height: number }) {
  return (
    <Stack gap="md" py="md" aria-busy="true" role="status" aria-label={say('loading')}>
      {Array.from({ length: rows }, (_, row) => `row-${row}`).map((key) => (
        <Skeleton key={key} height={height} radius={2} />
      ))}
    </Stack>
  );
}
