import type { Schemas } from '../api/client';

/** Steps of several tests together, told in percent of the gauge's scale. */
export function pooledSteps(steps: Schemas['PooledStepOut'][]): Schemas['GaugeStepOut'][] {
  return steps.map((step) => ({
    shown: Math.round(100 * step.shown),
    energy_left_fraction: step.energy_left_fraction,
    distance_left_fraction: null,
    lasted_m: null,
  }));
}
