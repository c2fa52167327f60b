import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useEffect } from 'react';
import { Navigate, Route, Routes, useLocation } from 'react-router';
import { type Session, sessionQuery } from './api/queries';
import { rememberedSession, rememberSession } from './api/session';
import {
  AccountPage,
  AgeingPage,
  ClaimPage,
  ComparePage,
  ForecastPage,
  FormatPage,
  ImportPage,
  KitLifePage,
  KitPage,
  LogbookPage,
  MemoryPage,
  MethodPage,
  PlanPage,
  PlansPage,
  PracticePage,
  ResultPage,
  RidePage,
  RideStartPage,
  RoutesPage,
  SeasonsPage,
  SideBySide,
  SizePage,
  TakePage,
  TidesPage,
} from './places/parts';
import { Shell } from './shell/Shell';
import { Boundary } from './ui/Boundary';
import { NoPage, Trouble, Waiting } from './ui/Page';

/** After the first page: what is kept on this device, and who is asked to come back. */
const Sending = lazy(() => import('./roadside/Sending').then((m) => ({ default: m.Sending })));
const SignBackIn = lazy(() =>
  import('./account/SignBackIn').then((m) => ({ default: m.SignBackIn })),
);
const SignIn = lazy(() => import('./account/SignIn').then((m) => ({ default: m.SignIn })));
const PhoneIn = lazy(() => import('./phone/PhoneIn').then((m) => ({ default: m.PhoneIn })));

/** Signed out: the first page, whatever the address. Signed in: the places. */
export function App() {
  const session = useQuery(sessionQuery);
  const { pathname } = useLocation();
  const username = session.data?.username ?? null;
  useEffect(() => {
    if (session.data === undefined || username === null) return;
    rememberSession(session.data);
    const here = session.data;
    import('./roadside/leaving')
      .then(({ arrive }) => arrive(username, here.seal))
      // What another left lying went, and what was remembered a moment ago with it.
      .then((another) => another && rememberSession(here))
      .catch(console.warn);
  }, [session.data, username]);
  if (session.isPending) return <Waiting rows={3} height={60} />;
  if (session.data === undefined) {
    return (
      <main style={{ padding: 40 }}>
        <Trouble error={session.error} onRetry={() => session.refetch()} />
      </main>
    );
  }
  if (pathname === '/phone/in') {
    return (
      <Suspense fallback={<Waiting rows={3} height={60} />}>
        <PhoneIn />
      </Suspense>
    );
  }
  const before = username === null ? rememberedSession() : null;
  if (username === null && before === null) {
    return (
      <Suspense fallback={<Waiting rows={3} height={60} />}>
        <SignIn session={session.data} />
      </Suspense>
    );
  }
  // A sign-in that lapsed takes nobody's ride from the screen: what is noted is kept on the device.
  if (before !== null && !pathname.startsWith('/ride')) {
    return (
      <Suspense fallback={<Waiting rows={3} height={60} />}>
        <SignBackIn session={session.data} before={before} />
      </Suspense>
    );
  }
  return (
    <>
      <Boundary key="sending">
        <Suspense fallback={null}>
          <Sending username={username} />
        </Suspense>
      </Boundary>
      <Places session={before ?? session.data} pathname={pathname} />
    </>
  );
}

/** Every place at its address. */
function Places({ session, pathname }: { session: Session; pathname: string }) {
  return (
    <Routes>
      {(
        [
          ['/ride/practice', PracticePage],
          ['/ride/:testId', RidePage],
        ] as const
      ).map(([path, Place]) => (
        <Route
          key={path}
          path={path}
          element={
            // Ride has the whole screen to itself, without the shell and its boundary.
            <Boundary key={pathname} whole>
              <Suspense fallback={<Waiting rows={4} height={80} />}>
                <Place />
              </Suspense>
            </Boundary>
          }
        />
      ))}
      <Route element={<Shell session={session} />}>
        <Route index element={<Navigate to="/logbook" replace />} />
        <Route path="/logbook" element={<LogbookPage />} />
        <Route path="/import" element={<ImportPage />} />
        <Route path="/tests/:testId" element={<ResultPage />} />
        <Route path="/plan" element={<PlansPage />} />
        <Route path="/plan/claim" element={<ClaimPage />} />
        <Route path="/plan/size" element={<SizePage />} />
        <Route path="/plan/new" element={<PlanPage />} />
        <Route path="/plan/:planId" element={<PlanPage />} />
        <Route path="/forecast" element={<ForecastPage />} />
        <Route path="/forecast/compare" element={<ComparePage />} />
        <Route path="/forecast/:tripId" element={<ForecastPage />} />
        <Route path="/compare/seasons" element={<SeasonsPage />} />
        <Route path="/compare/tides" element={<TidesPage />} />
        <Route path="/compare/ageing" element={<AgeingPage />} />
        <Route path="/compare" element={<SideBySide />} />
        <Route path="/ride" element={<RideStartPage />} />
        <Route path="/ride/memory" element={<MemoryPage />} />
        <Route path="/kit/routes" element={<RoutesPage />} />
        <Route path="/kit" element={<Navigate to="/kit/vehicles" replace />} />
        <Route path="/kit/:shelf" element={<KitPage />} />
        <Route path="/kit/:shelf/:itemId" element={<KitLifePage />} />
        <Route path="/account" element={<AccountPage />} />
        <Route path="/phone" element={<TakePage />} />
        <Route path="/method" element={<MethodPage />} />
        <Route path="/method/formats/:name" element={<FormatPage />} />
        <Route path="*" element={<NoPage />} />
      </Route>
    </Routes>
  );
}
