import { describe, expect, it } from 'vitest';
import type { Pack, Rider, Units, Vehicle } from '../api/queries';
import { limpHint, limpTable, limpText } from '../format/limp';
import { kitBody, kitText, SHELVES, type Shelf } from './shelves';

const LB: Units = { distance: 'mi', mass: 'lb', temperature: '°C', pressure: 'kPa' };

function shelf(name: Shelf['name']): Shelf {
  const found = SHELVES.find((item) => item.name === name);
  if (found === undefined) throw new Error(`no shelf ${name}`);
  return found;
}

describe('kit', () => {
  it('is sent with units, counts as numbers, blanks as not known', () => {
    const typed = { name: ' Eider ', chemistry: 'nmc', series: '13', rated_ah: '14', full_v: '' };
    expect(kitBody(shelf('packs'), typed, LB)).toMatchObject({
      name: 'Eider',
      series: 13,
      parallel: null,
      rated_ah: '14 Ah',
      full_v: null,
      equivalent_full_cycles: null,
    });
    expect(kitBody(shelf('riders'), { name: 'Ines', mass_kg: '150' }, LB).mass_kg).toBe('150 lb');
    expect(kitBody(shelf('packs'), { series: 'many' }, LB).series).toBe('many');
  });

  it('weighs in pounds for a rider who reads stones', () => {
    const body = kitBody(shelf('riders'), { mass_kg: '150' }, { ...LB, mass: 'st' });
    expect(body.mass_kg).toBe('150 lb');
  });

  it('is told in a line', () => {
    const pack = {
      series: 13,
      parallel: 4,
      chemistry: 'nmc',
      taken: [],
      rated_ah: 14,
      full_v: 54.6,
      cutoff_v: 39,
    };
    expect(shelf('packs').line(pack as unknown as Pack, LB)).toBe(
      '13s4p · NMC (layered oxide) · 14.0 Ah · 54.6 V full, 39.0 V cut-off',
    );
    const bare = { ...pack, parallel: null, full_v: null };
    expect(shelf('packs').line(bare as unknown as Pack, LB)).toBe(
      '13s · NMC (layered oxide) · 14.0 Ah',
    );
    const trike = { kind: 'trike', mass_kg: 45.359237 } as Vehicle;
    expect(shelf('vehicles').line(trike, LB)).toBe('Trike · 100 lb');
    expect(shelf('riders').line({ mass_kg: null, gear_kg: null } as Rider, LB)).toBe('');
  });

  it('comes back in the rider’s units and is sent again as it came', () => {
    const stored = {
      name: 'Dunlin',
      kind: 'trike',
      mass_kg: 45.359237,
      max_speed_mps: 4.4704,
      step_down: [],
    };
    const typed = kitText(shelf('vehicles'), stored as unknown as Vehicle, LB);
    expect(typed).toMatchObject({ mass_kg: '100', max_speed_mps: '10', crr: '' });
    expect(kitBody(shelf('vehicles'), typed, LB)).toMatchObject({
      mass_kg: '100 lb',
      max_speed_mps: '10 mph',
      crr: null,
    });
    const pack = {
      name: 'Eider',
      chemistry: 'nmc',
      series: 13,
      rated_ah: 14,
      resistance_ohm: 0.11,
    };
    const label = kitText(shelf('packs'), pack as unknown as Pack, LB);
    expect(label).toMatchObject({ series: '13', resistance_ohm: '110' });
    expect(kitBody(shelf('packs'), label, LB).resistance_ohm).toBe('110 mΩ');
  });

  it('reads and writes a limp table in the rider’s units', () => {
    expect(limpTable('44 V: 20 km/h; 41: 6', LB)).toEqual([
      { below_v: '44 V', max_speed_mps: '20 km/h' },
      { below_v: '41 V', max_speed_mps: '6 mph' },
    ]);
    expect(limpTable('', LB)).toEqual([]);
    expect(limpTable('20%: 10 mph; 2 of 5: 8; 44 of it: 3', LB)).toEqual([
      { gauge: 0.2, max_speed_mps: '10 mph' },
      { gauge: 0.4, max_speed_mps: '8 mph' },
      { below_v: '44 of it', max_speed_mps: '3 mph' },
    ]);
    expect(limpText([{ below_v: null, gauge: 0.2, max_speed_mps: 4.4704 }], LB)).toBe(
      '20%: 10 mph',
    );
    const rows = [{ below_v: 44, gauge: null, max_speed_mps: 4.4704 }];
    expect(limpText(rows, LB)).toBe('44 V: 10 mph');
    expect(limpText(rows, { ...LB, distance: 'km' })).toBe('44 V: 16.093 km/h');
    expect(limpHint(LB)).toBe('Slows when low: 44 V: 12 mph; 10%: 6 mph');
  });
});
