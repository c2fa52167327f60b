import { useQuery } from '@tanstack/react-query';
import { Suspense } from 'react';
import { Navigate, Route, Routes, useLocation } from 'react-router';
import { SignIn } from './account/SignIn';
import { sessionQuery } from './api/queries';
import { LogbookPage } from './logbook/LogbookPage';
import {
  ClaimPage,
  ComparePage,
  ForecastPage,
  FormatPage,
  KitLifePage,
  KitPage,
  MemoryPage,
  MethodPage,
  PlanPage,
  PlansPage,
  ResultPage,
  RidePage,
  RideStartPage,
  RoutesPage,
  SizePage,
} from './parts';
import { Shell } from './shell/Shell';
import { Boundary } from './ui/Boundary';
import { Trouble, Waiting } from './ui/Page';

/** Signed out: the first page, whatever the address. Signed in: the places. */
export function App() {
  const session = useQuery(sessionQuery);
  const { pathname } = useLocation();
  if (session.isPending) return <Waiting rows={3} height={60} />;
  if (session.data === undefined) {
    return (
      <main style={{ padding: 40 }}>
        <Trouble error={session.error} onRetry={() => session.refetch()} />
      </main>
    );
  }
  if (session.data.username == null) return <SignIn session={session.data} />;
  return (
    <Routes>
      <Route
        path="/ride/:testId"
        element={
          // Ride has the whole screen to itself, without the shell and its boundary.
          <Boundary key={pathname} whole>
            <Suspense fallback={<Waiting rows={4} height={80} />}>
              <RidePage />
            </Suspense>
          </Boundary>
        }
      />
      <Route element={<Shell session={session.data} />}>
        <Route index element={<Navigate to="/logbook" replace />} />
        <Route path="/logbook" element={<LogbookPage />} />
        <Route path="/tests/:testId" element={<ResultPage />} />
        <Route path="/plan" element={<PlansPage />} />
        <Route path="/plan/claim" element={<ClaimPage />} />
        <Route path="/plan/size" element={<SizePage />} />
        <Route path="/plan/new" element={<PlanPage />} />
        <Route path="/plan/:planId" element={<PlanPage />} />
        <Route path="/forecast" element={<ForecastPage />} />
        <Route path="/forecast/compare" element={<ComparePage />} />
        <Route path="/forecast/:tripId" element={<ForecastPage />} />
        <Route path="/ride" element={<RideStartPage />} />
        <Route path="/ride/memory" element={<MemoryPage />} />
        <Route path="/kit/routes" element={<RoutesPage />} />
        <Route path="/kit" element={<Navigate to="/kit/vehicles" replace />} />
        <Route path="/kit/:shelf" element={<KitPage />} />
        <Route path="/kit/:shelf/:itemId" element={<KitLifePage />} />
        <Route path="/method" element={<MethodPage />} />
        <Route path="/method/formats/:name" element={<FormatPage />} />
        <Route
          path="*"
          element={<Trouble error={new Error('There is no page at this address.')} />}
        />
      </Route>
    </Routes>
  );
}
