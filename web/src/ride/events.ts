import { ALL_FIELDS, type EntryBody } from '../entries/fields';

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
  { name: 'turn', label: 'Turned round', kind: 'turn' },
  { name: 'place', label: 'At a place', about: 'by name', kind: 'checkpoint', word: 'place' },
  {
    name: 'walked',
    label: 'Walked',
    about: 'how far',
    kind: 'event',
    what: 'walked',
    number: 'walked_m',
  },
  { name: 'mode', label: 'Mode', about: 'which', kind: 'event', what: 'mode', word: 'mode' },
  {
    name: 'pedalled',
    label: 'Pedalled',
    about: 'since the last entry',
    kind: 'event',
    what: 'pedalled',
  },
  {
    name: 'wind',
    label: 'Wind',
    about: 'how strong now',
    kind: 'event',
    what: 'wind',
    number: 'wind_mps',
  },
  { name: 'rain', label: 'Rain', about: 'began or ended', kind: 'event', what: 'rain' },
  {
    name: 'shown',
    label: 'Range shown',
    about: 'what the display shows',
    kind: 'event',
    what: 'other',
    number: 'shown_range_m',
  },
  {
    name: 'untracked',
    label: 'Tracker off',
    about: 'for how far',
    kind: 'event',
    what: 'tracker_off',
    number: 'untracked_m',
  },
  { name: 'swap', label: 'Switched packs', kind: 'swap' },
  {
    name: 'charged',
    label: 'Charged',
    about: 'watt-hours',
    kind: 'event',
    what: 'charged',
    number: 'charged_wh',
  },
  {
    name: 'charged_time',
    label: 'Charged',
    about: 'how long',
    kind: 'event',
    what: 'charged',
    number: 'charged_s',
  },
  {
    name: 'settled',
    label: 'Settled',
    about: 'resting volts',
    kind: 'settle',
    number: 'voltage_rest_v',
  },
  {
    name: 'overnight',
    label: 'Overnight',
    about: 'parked till morning',
    kind: 'event',
    what: 'overnight',
  },
  { name: 'warning', label: 'Warning light', kind: 'event', what: 'warning' },
  { name: 'power_cut', label: 'Power cut', kind: 'event', what: 'power_cut' },
  { name: 'tilt_back', label: 'Tilt-back', kind: 'event', what: 'tilt_back' },
  { name: 'overheated', label: 'Overheated', kind: 'event', what: 'overheated' },
  { name: 'beeping', label: 'It beeps', kind: 'event', what: 'beeping' },
  { name: 'speed_step', label: 'It cut its speed', kind: 'event', what: 'speed_step' },
  { name: 'puncture', label: 'Puncture', kind: 'event', what: 'puncture' },
  { name: 'fall', label: 'Fall', kind: 'event', what: 'fall' },
  { name: 'other', label: 'Something else', about: 'in words', kind: 'event', what: 'other' },
];

export function numberOf(event: RideEvent) {
  return ALL_FIELDS.find((field) => field.name === event.number) ?? null;
}
