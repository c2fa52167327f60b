import { describe, expect, it } from 'vitest';
import type { Units } from '../api/queries';
import { emptyTable, faultsOf, sentRows, tableOf, unitOfColumn } from './table';

const MI: Units = { distance: 'mi', mass: 'kg', temperature: '°C', pressure: 'kPa' };

describe('a ride from memory', () => {
  it('sends what is written, each number in its column’s unit, empty rows left out', () => {
    const table = tableOf({
      columns: [
        { heading: 'Clock', name: 'clock', unit: '' },
        { heading: 'km', name: 'trip_m', unit: 'km' },
        { heading: 'what', name: null, unit: '' },
      ],
      rows: [
        ['9:12', '0', 'x'],
        ['', '', 'x'],
        ['', '6 mi', ''],
      ],
      left_out: 0,
    });
    const { entries, places } = sentRows(table, MI);
    expect(entries).toEqual([{ clock: '9:12', trip_m: '0 km' }, { trip_m: '6 mi' }]);
    expect(places).toEqual([0, 2]);
  });

  it('shows a refusal in the row that was sent from there', () => {
    const faults = faultsOf({ 'entries.1.trip_m': 'is far', title: 'is needed' }, [0, 2]);
    expect(faults).toEqual({ '2:trip_m': 'is far' });
  });

  it('begins with what most riders remember, in their units', () => {
    const table = emptyTable();
    expect(table.columns.map((column) => unitOfColumn(column, MI))).toEqual([
      '',
      'mi',
      'V',
      '',
      '',
    ]);
    expect(sentRows(table, MI).entries).toEqual([]);
  });
});
