import type { TestRow } from '../api/queries';

/** The vehicle that was ridden in the most seasons of the year, by most tests where several were; by name. */
export function riddenInMost(
  tests: ReadonlyArray<Pick<TestRow, 'vehicle_name' | 'started_at'>>,
): string | null {
  const ridden = new Map<string, { seasons: Set<number>; tests: number }>();
  for (const { vehicle_name, started_at } of tests) {
    if (!vehicle_name || !started_at) continue;
    const found = ridden.get(vehicle_name) ?? { seasons: new Set<number>(), tests: 0 };
    found.seasons.add(Math.floor((new Date(started_at).getMonth() % 12) / 3));
    ridden.set(vehicle_name, { seasons: found.seasons, tests: found.tests + 1 });
  }
  const [most] = [...ridden].sort(
    ([, a], [, b]) => b.seasons.size - a.seasons.size || b.tests - a.tests,
  );
  return most?.[0] ?? null;
}
