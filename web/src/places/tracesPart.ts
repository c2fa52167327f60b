import { part } from './part';

/** The traces with their charts; asked for as soon as a test is, for most have samples. */
export const traces = part(() =>
  import('../result/TracesSection').then((module) => module.TracesSection),
);
