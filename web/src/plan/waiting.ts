import type { Schemas } from '../api/client';

type Row = Pick<Schemas['PlanRow'], 'id' | 'test_id' | 'series' | 'series_place'>;

/** The plans that wait for their ride; of a series the next one alone, or it would push the others out. */
export function waitingOf<T extends Row>(rows: readonly T[]): T[] {
  const waiting = rows.filter((row) => row.test_id === null);
  return waiting.filter(
    (row) =>
      row.series === null ||
      waiting.every(
        (other) =>
          other.series !== row.series || (other.series_place ?? 0) >= (row.series_place ?? 0),
      ),
  );
}
