import { describe, expect, it } from 'vitest';
import type { TestRow } from '../api/queries';
import { filterOf, linesOf } from './filter';

const row = (id: string, vehicle: string) =>
  ({ id, vehicle_name: vehicle, pack_name: '' }) as TestRow;

describe('the logbook’s address', () => {
  it('asks for what it names, and passes over what it cannot mean', () => {
    const address = new URLSearchParams('vehicle=Dunlin&season=dec_feb&sort=sideways&purpose=x&q=');
    expect(filterOf(address)).toEqual({ vehicle: 'Dunlin', season: 'dec_feb' });
  });

  it('cuts what is too long for the server', () => {
    expect(filterOf(new URLSearchParams({ tag: 'x'.repeat(90) })).tag).toHaveLength(40);
  });
});

describe('groups', () => {
  it('have a heading each, once', () => {
    const lines = linesOf([row('1', 'Dunlin'), row('2', 'Dunlin'), row('3', '')], 'vehicle');
    expect(lines.map((line) => (line.kind === 'heading' ? line.text : line.key))).toEqual([
      'Dunlin',
      '1',
      '2',
      'Vehicle not named',
      '3',
    ]);
  });

  it('are none in an order without groups', () => {
    expect(linesOf([row('1', 'Dunlin')], undefined)).toHaveLength(1);
  });
});
