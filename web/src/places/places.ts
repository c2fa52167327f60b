/** The places that are built, in the order of the work; each with its key. */
export const PLACES = [
  { path: '/plan', label: 'Plan', shortcut: 'p', about: 'Choose the question, see how it ends' },
  { path: '/ride', label: 'Ride', shortcut: 'r', about: 'Log a test by hand' },
  { path: '/logbook', label: 'Logbook', shortcut: 'l', about: 'Every test on one scale' },
  {
    path: '/compare',
    label: 'Compare',
    shortcut: 'c',
    about: 'Which uses less, and is the difference real?',
  },
  {
    path: '/forecast',
    label: 'Forecast',
    shortcut: 'f',
    about: 'A trip today: will you get there?',
  },
  { path: '/kit', label: 'Kit', shortcut: 'k', about: 'Vehicles, packs, riders, routes' },
  {
    path: '/method',
    label: 'Method',
    shortcut: 'm',
    about: 'Formulas, sources, assumptions, cautions',
  },
] as const;

/** On the phone's bar; the rest stands under More. */
export const ON_THE_BAR = 3;

/** What the palette reaches beside the places. */
export const TOOLS = [
  { path: '/ride/memory', label: 'From memory', about: 'Log a past ride' },
  { path: '/plan/claim', label: 'Claim check', about: 'Can a maker’s figure be true?' },
  { path: '/plan/size', label: 'Size a pack', about: 'How big a pack a trip needs' },
  { path: '/plan/new', label: 'New plan', about: 'Plan a test' },
  { path: '/ride/practice', label: 'Practice', about: 'Rehearse a ride at thirty times the speed' },
  { path: '/account', label: 'Account', about: 'Signed-in devices, what it holds, deleting it' },
  { path: '/phone', label: 'Use it on your phone', about: 'Certificate, sign-in, install' },
  { path: '/kit/routes', label: 'Routes', about: 'Import a GPX file, measure a loop' },
] as const;
