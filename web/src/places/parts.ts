import { part } from './part';
import { traces } from './tracesPart';

/** The places by the beginning of their address, the longer ones first. */
const PARTS = {
  '/logbook': part(() => import('../logbook/LogbookPage').then((m) => m.LogbookPage)),
  '/import': part(() => import('../letin/ImportPage').then((m) => m.ImportPage)),
  '/tests/': part(() => {
    // Beside the page, not after it.
    traces.load().catch(() => undefined);
    return import('../result/ResultPage').then((m) => m.ResultPage);
  }),
  '/plan/claim': part(() => import('../plan/ClaimPage').then((m) => m.ClaimPage)),
  '/plan/size': part(() => import('../plan/SizePage').then((m) => m.SizePage)),
  '/plan/': part(() => import('../plan/PlanPage').then((m) => m.PlanPage)),
  '/plan': part(() => import('../plan/PlansPage').then((m) => m.PlansPage)),
  '/compare/ageing': part(() => import('../compare/AgeingPage').then((m) => m.AgeingPage)),
  '/compare/seasons': part(() => import('../compare/SeasonsPage').then((m) => m.SeasonsPage)),
  '/compare/tides': part(() => import('../compare/TidesPage').then((m) => m.TidesPage)),
  '/compare': part(() => import('../compare/SideBySide').then((m) => m.SideBySide)),
  '/forecast/compare': part(() => import('../forecast/ComparePage').then((m) => m.ComparePage)),
  '/forecast': part(() => import('../forecast/ForecastPage').then((m) => m.ForecastPage)),
  '/kit/routes': part(() => import('../routes/RoutesPage').then((m) => m.RoutesPage)),
  '/kit/vehicles/': part(() => import('../kit/KitLifePage').then((m) => m.KitLifePage)),
  '/kit': part(() => import('../kit/KitPage').then((m) => m.KitPage)),
  '/account': part(() => import('../account/AccountPage').then((m) => m.AccountPage)),
  '/phone': part(() => import('../phone/TakePage').then((m) => m.TakePage)),
  '/method/formats/': part(() => import('../method/FormatPage').then((m) => m.FormatPage)),
  '/method': part(() => import('../method/MethodPage').then((m) => m.MethodPage)),
  '/ride/memory': part(() => import('../memory/MemoryPage').then((m) => m.MemoryPage)),
  '/ride/practice': part(() => import('../practice/PracticePage').then((m) => m.PracticePage)),
  '/ride/': part(() => import('../ride/RidePage').then((m) => m.RidePage)),
  '/ride': part(() => import('../ride/RideStartPage').then((m) => m.RideStartPage)),
};

export const LogbookPage = PARTS['/logbook'].Place;
export const ImportPage = PARTS['/import'].Place;
export const ResultPage = PARTS['/tests/'].Place;
export const ClaimPage = PARTS['/plan/claim'].Place;
export const SizePage = PARTS['/plan/size'].Place;
export const PlanPage = PARTS['/plan/'].Place;
export const PlansPage = PARTS['/plan'].Place;
export const ComparePage = PARTS['/forecast/compare'].Place;
export const AgeingPage = PARTS['/compare/ageing'].Place;
export const SeasonsPage = PARTS['/compare/seasons'].Place;
export const TidesPage = PARTS['/compare/tides'].Place;
export const SideBySide = PARTS['/compare'].Place;
export const ForecastPage = PARTS['/forecast'].Place;
export const RoutesPage = PARTS['/kit/routes'].Place;
export const KitLifePage = PARTS['/kit/vehicles/'].Place;
export const KitPage = PARTS['/kit'].Place;
export const MethodPage = PARTS['/method'].Place;
export const AccountPage = PARTS['/account'].Place;
export const TakePage = PARTS['/phone'].Place;
export const FormatPage = PARTS['/method/formats/'].Place;
export const MemoryPage = PARTS['/ride/memory'].Place;
export const PracticePage = PARTS['/ride/practice'].Place;
export const RidePage = PARTS['/ride/'].Place;
export const RideStartPage = PARTS['/ride'].Place;

/** Ask for the part of an address before it is opened: at the start, or when a link is pointed at. */
export function loadAhead(pathname: string) {
  // The first page of whoever is signed in.
  const address = pathname === '/' ? '/logbook' : pathname;
  const place = address.replace(/^\/kit\/(packs|riders)\//, '/kit/vehicles/');
  const found = Object.entries(PARTS).find(([begins]) => place.startsWith(begins));
  // A failure shows where the part is opened, in its boundary.
  found?.[1].load().catch(() => undefined);
}
