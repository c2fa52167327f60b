import { ALL_FIELDS, type EntryBody } from '../entries/fields';
import { say } from '../words/en/ride.ftl';

/** What happened, as one key. Some need a figure or a word, most need nothing. */
export interface RideEvent {
  name: string;
  label: string;
  /** Said under the label. */
  about?: string;
  kind: EntryBody['kind'];
  what?: EntryBody['what'];
  /** A figure that is asked for, by its column. */
  number?: string;
  /** A word that is asked for, by its column, and what it is called. */
  word?: 'place' | 'mode';
}

/** In the order in which they are likely, the frequent ones first. */
export const EVENTS: RideEvent[] = [
  { name: 'turn', label: say('turned-round'), kind: 'turn' },
  {
    name: 'place',
    label: say('at-a-place'),
    about: say('by-name'),
    kind: 'checkpoint',
    word: 'place',
  },
  {
    name: 'walked',
    label: say('walked'),
    about: say('how-far'),
    kind: 'event',
    what: 'walked',
    number: 'walked_m',
  },
  {
    name: 'mode',
    label: say('mode'),
    about: say('which'),
    kind: 'event',
    what: 'mode',
    word: 'mode',
  },
  {
    name: 'pedalled',
    label: say('pedalled'),
    about: say('since-the-last-entry'),
    kind: 'event',
    what: 'pedalled',
  },
  {
    name: 'wind',
    label: say('wind'),
    about: say('how-strong-now'),
    kind: 'event',
    what: 'wind',
    number: 'wind_mps',
  },
  { name: 'rain', label: say('rain'), about: say('began-or-ended'), kind: 'event', what: 'rain' },
  {
    name: 'shown',
    label: say('range-shown'),
    about: say('what-the-display-shows'),
    kind: 'event',
    what: 'other',
    number: 'shown_range_m',
  },
  {
    name: 'untracked',
    label: say('tracker-off'),
    about: say('for-how-far'),
    kind: 'event',
    what: 'tracker_off',
    number: 'untracked_m',
  },
  { name: 'swap', label: say('switched-packs'), kind: 'swap' },
  {
    name: 'charged',
    label: say('charged'),
    about: say('watt-hours'),
    kind: 'event',
    what: 'charged',
    number: 'charged_wh',
  },
  {
    name: 'charged_time',
    label: say('charged'),
    about: say('how-long'),
    kind: 'event',
    what: 'charged',
    number: 'charged_s',
  },
  {
    name: 'settled',
    label: say('settled'),
    about: say('resting-volts'),
    kind: 'settle',
    number: 'voltage_rest_v',
  },
  {
    name: 'overnight',
    label: say('overnight'),
    about: say('parked-till-morning'),
    kind: 'event',
    what: 'overnight',
  },
  { name: 'warning', label: say('warning-light'), kind: 'event', what: 'warning' },
  { name: 'power_cut', label: say('power-cut'), kind: 'event', what: 'power_cut' },
  { name: 'tilt_back', label: say('tilt-back'), kind: 'event', what: 'tilt_back' },
  { name: 'overheated', label: say('overheated'), kind: 'event', what: 'overheated' },
  { name: 'beeping', label: say('it-beeps'), kind: 'event', what: 'beeping' },
  { name: 'speed_step', label: say('it-cut-its-speed'), kind: 'event', what: 'speed_step' },
  { name: 'puncture', label: say('puncture'), kind: 'event', what: 'puncture' },
  { name: 'fall', label: say('fall'), kind: 'event', what: 'fall' },
  {
    name: 'other',
    label: say('something-else'),
    about: say('in-words'),
    kind: 'event',
    what: 'other',
  },
];

export function numberOf(event: RideEvent) {
  return ALL_FIELDS.find((field) => field.name === event.number) ?? null;
}
