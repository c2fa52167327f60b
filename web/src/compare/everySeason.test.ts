import { describe, expect, it } from 'vitest';
import { riddenInMost } from './everySeason';

const rode = (vehicle_name: string, ...days: string[]) =>
  days.map((day) => ({ vehicle_name, started_at: `2026-${day}T12:00:00Z` }));

describe('the vehicle that seasons open on', () => {
  it('is the one that was ridden in the most of them, not the one ridden most', () => {
    const tests = [
      ...rode('Dunlin', '07-01', '07-02', '08-03', '08-04'),
      ...rode('Whimbrel', '01-10', '05-10', '10-10'),
      ...rode('', '01-01', '04-01', '07-01', '10-01'),
    ];
    expect(riddenInMost(tests)).toBe('Whimbrel');
  });

  it('is by tests where seasons are equal, and none without tests', () => {
    const tests = [...rode('Knot', '01-10', '05-10'), ...rode('Plover', '01-10', '05-10', '05-11')];
    expect(riddenInMost(tests)).toBe('Plover');
    expect(riddenInMost([{ vehicle_name: 'Knot', started_at: null }])).toBeNull();
  });
});
