import type { Strip } from '../api/queries';
import type { Left } from '../roadside/readings';
import type { Ride, RideEntry } from '../roadside/ride';
import type { KeptTable } from '../roadside/store';
import type { Standing } from '../roadside/table';

const UNDRAWN: Strip = {
  distance_m: [],
  energy_left: [],
  marks: [],
  ridden_m: 0,
  cutoff_m: null,
  reserve: 0,
  measured: false,
  tides: [],
};

/**
 * The tideline by this device's own estimate: as the answer behind its table drew it, and on through what
 * was noted since. Line, cut-off and figures are of the same estimate.
 */
export function deviceStrip(
  ride: Ride,
  table: KeptTable,
  standing: Standing,
  since: readonly RideEntry[],
): Strip {
  const { follow } = ride;
  // The line before it is drawn by the answer of the very evidence that the table is of.
  const same = follow?.evidence.digest === table.evidence.digest ? follow.strip : null;
  const { path, reach } = standing;
  const last = path.at(-1) as Left;
  // Of readings that contradict each other nothing is drawn, as by the core.
  if (standing.code === 'contradict') {
    return { ...UNDRAWN, ridden_m: last.at_m, reserve: table.reserve };
  }
  const [low, middle, high] = reach;
  const added = path.slice(1);
  const marks = since.map((entry, index) => {
    const place = path[Math.min(index + 1, path.length - 1)] as Left;
    return {
      distance_m: place.at_m,
      energy_left: place.left,
      kind: entry.kind,
      time_s: entry.time_s,
      voltage_v: entry.voltage_rest_v ?? entry.voltage_load_v ?? null,
      gauge: entry.gauge ?? null,
      place: entry.place ?? null,
      what: entry.what ?? null,
      questioned: false,
    };
  });
  const first = path[0] as Left;
  return {
    distance_m: [...(same?.distance_m ?? [first.at_m]), ...added.map((one) => one.at_m)],
    energy_left: [...(same?.energy_left ?? [first.left]), ...added.map((one) => one.left)],
    marks: [...(same?.marks ?? []), ...marks],
    ridden_m: last.at_m,
    cutoff_m: [last.at_m + low, last.at_m + middle, last.at_m + high],
    reserve: table.reserve,
    measured: false,
    tides: [],
  };
}
