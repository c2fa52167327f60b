import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense } from 'react';
import { Navigate, Route, Routes } from 'react-router';
import { SignIn } from './account/SignIn';
import { sessionQuery } from './api/queries';
import { ForecastPage } from './forecast/ForecastPage';
import { KitPage } from './kit/KitPage';
import { LogbookPage } from './logbook/LogbookPage';
import { ClaimPage } from './plan/ClaimPage';
import { PlanPage } from './plan/PlanPage';
import { PlansPage } from './plan/PlansPage';
import { SizePage } from './plan/SizePage';
import { RidePage } from './ride/RidePage';
import { RideStartPage } from './ride/RideStartPage';
import { RoutesPage } from './routes/RoutesPage';
import { Trouble, Waiting } from './shell/Page';
import { Shell } from './shell/Shell';

// The charts are most of the page's weight, and only this place draws them.
const loadResultPage = () => import('./result/ResultPage');
const ResultPage = lazy(() => loadResultPage().then((module) => ({ default: module.ResultPage })));
// Whoever comes straight to a test need not wait for the session to be told first.
if (window.location.pathname.startsWith('/tests/')) loadResultPage();

/** Signed out: the first page, whatever the address. Signed in: the places. */
export function App() {
  const session = useQuery(sessionQuery);
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
      <Route path="/ride/:testId" element={<RidePage />} />
      <Route element={<Shell session={session.data} />}>
        <Route index element={<Navigate to="/logbook" replace />} />
        <Route path="/logbook" element={<LogbookPage />} />
        <Route
          path="/tests/:testId"
          element={
            <Suspense fallback={<Waiting rows={4} height={90} />}>
              <ResultPage />
            </Suspense>
          }
        />
        <Route path="/plan" element={<PlansPage />} />
        <Route path="/plan/claim" element={<ClaimPage />} />
        <Route path="/plan/size" element={<SizePage />} />
        <Route path="/plan/new" element={<PlanPage />} />
        <Route path="/plan/:planId" element={<PlanPage />} />
        <Route path="/forecast" element={<ForecastPage />} />
        <Route path="/ride" element={<RideStartPage />} />
        <Route path="/kit/routes" element={<RoutesPage />} />
        <Route path="/kit" element={<Navigate to="/kit/vehicles" replace />} />
        <Route path="/kit/:shelf" element={<KitPage />} />
        <Route
          path="*"
          element={<Trouble error={new Error('There is no page at this address.')} />}
        />
      </Route>
    </Routes>
  );
}
