/** The traces with their charts; asked for as soon as a test is, for most have samples. */
export const loadTraces = () =>
  import('./TracesSection').then((module) => ({ default: module.TracesSection }));
