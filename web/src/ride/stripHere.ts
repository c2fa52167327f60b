import type { Strip } from '../api/queries';
import type { Ride, RideEntry } from '../roadside/ride';

/** Where an entry was made, by its own readings [m from the start]; null where it does not say. */
export function placeOf(
  ride: Pick<Ride, 'entries' | 'lap_length_m'>,
  entry: RideEntry,
): number | null {
  if (entry.laps != null && ride.lap_length_m != null) return entry.laps * ride.lap_length_m;
  for (const name of ['trip_m', 'gps_m', 'odometer_m'] as const) {
    const first = ride.entries.find((one) => one[name] != null)?.[name];
    const value = entry[name];
    if (value != null && first != null && value >= first) {
      // A trip meter that was reset begins at nought; an odometer never does.
      return name === 'odometer_m' || ride.entries[0]?.[name] != null ? value - first : value;
    }
  }
  return null;
}

/**
 * A strip with what was noted here since the server drew it. The line goes on as the server's own
 * outlook has it; what the new readings mean, only the core says.
 */
export function stripHere(ride: Ride, drawn: Strip | null): Strip | null {
  if (drawn === null) return null;
  const known = new Set(ride.detail?.entries.map((entry) => entry.id) ?? []);
  const added = ride.entries.filter((entry) => !known.has(entry.id) && entry.where !== 'refused');
  if (added.length === 0) return drawn;
  const from = drawn.distance_m.at(-1) ?? 0;
  const left = drawn.energy_left.at(-1) ?? 1;
  const end = drawn.cutoff_m?.[1] ?? null;
  const levelAt = (metres: number) =>
    end === null || end <= from ? left : Math.max(left * (1 - (metres - from) / (end - from)), 0);
  let ridden = drawn.ridden_m ?? from;
  const marks = added.map((entry) => {
    ridden = Math.max(placeOf(ride, entry) ?? ridden, ridden);
    return {
      distance_m: ridden,
      energy_left: levelAt(ridden),
      kind: entry.kind,
      time_s: entry.time_s,
      voltage_v: entry.voltage_rest_v ?? null,
      gauge: entry.gauge ?? null,
      place: entry.place ?? null,
      what: entry.what ?? null,
      questioned: false,
    };
  });
  const goesOn = ridden > from && drawn.distance_m.length > 0;
  return {
    ...drawn,
    marks: [...drawn.marks, ...marks],
    ridden_m: ridden,
    distance_m: goesOn ? [...drawn.distance_m, ridden] : drawn.distance_m,
    energy_left: goesOn ? [...drawn.energy_left, levelAt(ridden)] : drawn.energy_left,
  };
}
