import { describe, expect, it } from 'vitest';
import { messages } from '../../../src/limpet/notices/en/lines.ftl';
import type { Units } from '../api/queries';
import { speaker } from './fill';

const MILES: Units = { distance: 'mi', mass: 'kg', temperature: '°C', pressure: 'kPa' };
const KM: Units = { ...MILES, distance: 'km' };

describe('a line of the core', () => {
  const line = speaker(messages);

  it('is said in the units of whoever reads it', () => {
    const values = { reads: 'the trip meter reads', turn_shown_m: 11_200, to_go_m: 3200 };
    expect(line('turn_by', values, MILES)).toBe('Turn back when the trip meter reads 7.0\u00a0mi');
    expect(line('turn_by', values, KM)).toBe('Turn back when the trip meter reads 11.2\u00a0km');
    expect(line('slow_to', { speed_mps: 5 }, KM)).toBe('Slow to 18\u00a0km/h');
    expect(line('laps_under', { lap: 3, this: 0.999, reserve: 0.2 }, KM)).toBe(
      'Lap 3: over 99% with 20% left',
    );
  });

  it('has a dash for what an older version did not keep', () => {
    expect(line('turn_by', { turn_shown_m: 1000 }, KM)).toBe('Turn back when – 1.0\u00a0km');
  });

  it('is one that the core has, with a part under it', () => {
    const codes = Object.keys(messages).filter((key) => !/_under$|^reads_/.test(key));
    expect(codes).toHaveLength(24);
    for (const code of codes) expect(messages[`${code}_under`], code).toBeDefined();
  });
});
