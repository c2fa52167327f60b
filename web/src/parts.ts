import { lazy } from 'react';

/** The places that are loaded when they are opened; the logbook, where most begin, comes at once. */
const parts = {
  result: () => import('./result/ResultPage'),
  plans: () => import('./plan/PlansPage'),
  plan: () => import('./plan/PlanPage'),
  claim: () => import('./plan/ClaimPage'),
  size: () => import('./plan/SizePage'),
  forecast: () => import('./forecast/ForecastPage'),
  kit: () => import('./kit/KitPage'),
  routes: () => import('./routes/RoutesPage'),
  rideStart: () => import('./ride/RideStartPage'),
  ride: () => import('./ride/RidePage'),
};

export const ResultPage = lazy(() => parts.result().then((m) => ({ default: m.ResultPage })));
export const PlansPage = lazy(() => parts.plans().then((m) => ({ default: m.PlansPage })));
export const PlanPage = lazy(() => parts.plan().then((m) => ({ default: m.PlanPage })));
export const ClaimPage = lazy(() => parts.claim().then((m) => ({ default: m.ClaimPage })));
export const SizePage = lazy(() => parts.size().then((m) => ({ default: m.SizePage })));
export const ForecastPage = lazy(() => parts.forecast().then((m) => ({ default: m.ForecastPage })));
export const KitPage = lazy(() => parts.kit().then((m) => ({ default: m.KitPage })));
export const RoutesPage = lazy(() => parts.routes().then((m) => ({ default: m.RoutesPage })));
export const RideStartPage = lazy(() =>
  parts.rideStart().then((m) => ({ default: m.RideStartPage })),
);
export const RidePage = lazy(() => parts.ride().then((m) => ({ default: m.RidePage })));

/** Whoever comes straight to a test need not wait for the session before its part is asked for. */
export function loadAhead(pathname: string) {
  // A failure shows where the part is opened, in its boundary.
  if (pathname.startsWith('/tests/')) parts.result().catch(() => undefined);
  if (pathname.startsWith('/ride/')) parts.ride().catch(() => undefined);
}
