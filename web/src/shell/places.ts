/** The places that are built, in the order of the work; each with its key. */
export const PLACES = [
  { path: '/ride', label: 'Ride', shortcut: 'r', about: 'Log a test by hand' },
  { path: '/logbook', label: 'Logbook', shortcut: 'l', about: 'Every test on one scale' },
  { path: '/kit', label: 'Kit', shortcut: 'k', about: 'Vehicles, packs, riders' },
] as const;
