import { isRecord, remember, remembered } from '../device/remembered';
import type { Ride } from '../roadside/ride';

/** What a vehicle's own gauge shows, and how many of them when full. */
export interface GaugeKind {
  kind: 'percent' | 'bars' | 'dots';
  steps: number;
}

export const FEWEST_STEPS = 2;
export const MOST_STEPS = 12;

function isGauge(value: unknown): value is GaugeKind {
  return isRecord(value) && typeof value.kind === 'string' && typeof value.steps === 'number';
}

const key = (ride: Pick<Ride, 'vehicle_name'>) => `limpet-gauge-${ride.vehicle_name}`;

/** As the sheet says it, or as it was told on this device; null when nobody has said. */
export function gaugeOf(ride: Ride): GaugeKind | null {
  const said = ride.detail?.sheet?.parts.gauge;
  if (said?.gauge_kind === 'percent') return { kind: 'percent', steps: 100 };
  if (said?.gauge_kind && said.gauge_steps) {
    return { kind: said.gauge_kind, steps: said.gauge_steps };
  }
  return gaugeTold(ride.vehicle_name);
}

/** As it was told on this device of a vehicle; null when nobody has said. */
export function gaugeTold(vehicle_name: string): GaugeKind | null {
  return remembered(key({ vehicle_name }), isGauge);
}

export function rememberGauge(ride: Pick<Ride, 'vehicle_name'>, gauge: GaugeKind): void {
  remember(key(ride), gauge);
}
