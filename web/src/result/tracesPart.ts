import { part } from '../ui/part';

/** The traces with their charts; asked for as soon as a test is, for most have samples. */
export const traces = part(() => import('./TracesSection').then((module) => module.TracesSection));
