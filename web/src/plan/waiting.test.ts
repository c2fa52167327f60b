import { describe, expect, it } from 'vitest';
import { waitingOf } from './waiting';

const row = (id: string, series: string | null, place: number | null, ridden = false) => ({
  id,
  series,
  series_place: place,
  test_id: ridden ? 'a test' : null,
});

describe('plans that wait', () => {
  it('has the next ride of each series and every plan of its own', () => {
    const rows = [
      row('b2', 'b', 2),
      row('a3', 'a', 3),
      row('own', null, null),
      row('a1', 'a', 1, true),
      row('a2', 'a', 2),
      row('b1', 'b', 1),
      row('done', null, null, true),
    ];
    expect(waitingOf(rows).map(({ id }) => id)).toEqual(['own', 'a2', 'b1']);
  });
});
