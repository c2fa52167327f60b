import { say } from '../words/en/places.ftl';
/** The places that are built, in the order of the work; each with its key. */
export const PLACES = [
  { path: '/plan', label: say('plan'), shortcut: 'p', about: say('choose-the-question-see-how') },
  { path: '/ride', label: say('ride'), shortcut: 'r', about: say('log-a-test-by-hand') },
  { path: '/logbook', label: say('logbook'), shortcut: 'l', about: say('every-test-on-one-scale') },
  {
    path: '/compare',
    label: say('compare'),
    shortcut: 'c',
    about: say('which-uses-less-and-is'),
  },
  {
    path: '/forecast',
    label: say('forecast'),
    shortcut: 'f',
    about: say('a-trip-today-will-you'),
  },
  { path: '/kit', label: say('kit'), shortcut: 'k', about: say('vehicles-packs-riders-routes') },
  {
    path: '/method',
    label: say('method'),
    shortcut: 'm',
    about: say('formulas-sources-assumptions-cautions'),
  },
] as const;

/** On the phone's bar; the rest stands under More. */
export const ON_THE_BAR = 3;

/** What the palette reaches beside the places. */
export const TOOLS = [
  { path: '/import', label: say('import'), about: say('any-loggers-file-any-track') },
  { path: '/ride/memory', label: say('from-memory'), about: say('log-a-past-ride') },
  { path: '/plan/claim', label: say('claim-check'), about: say('can-a-makers-figure-be') },
  { path: '/plan/size', label: say('size-a-pack'), about: say('how-big-a-pack-a') },
  { path: '/plan/new', label: say('new-plan'), about: say('plan-a-test') },
  { path: '/ride/practice', label: say('practice'), about: say('rehearse-a-ride-at-thirty') },
  { path: '/account', label: say('account'), about: say('signed-in-devices-what-it') },
  { path: '/phone', label: say('use-it-on-your-phone'), about: say('certificate-sign-in-install') },
  { path: '/kit/routes', label: say('routes'), about: say('import-a-gpx-file-measure') },
] as const;
