import { describe, expect, it } from 'vitest';
import type { PlanIn, Rules } from '../api/queries';
import { type PlanForm, planBody, planFormOf, ruled } from './planForm';

const KM = { distance: 'km', mass: 'kg', temperature: '°C', pressure: 'kPa' } as const;
const STORED: Partial<PlanIn> = {
  vehicle_id: 'v',
  pack_id: 'p',
  route_id: 'r',
  purpose: 'floor',
  end_rule: 'cutoff',
  policy: 'flat_out',
  reserve: 0.1,
  runs: 3,
  wanted: 0.1,
  counts_charge: false,
  charger_w: 84,
};

describe('a plan as typed', () => {
  it('comes back from storage as it was', () => {
    const form: PlanForm = planFormOf(STORED, 'Out flat', KM);
    expect(form.title).toBe('Out flat');
    expect(planBody(form, KM)).toMatchObject({
      ...STORED,
      charger_w: '84 W',
      title: 'Out flat',
    });
  });

  it('leaves what is not typed to the rules', () => {
    const form = planFormOf({ ...STORED, runs: null, wanted: null, charger_w: null }, '', KM);
    expect(planBody(form, KM)).toMatchObject({ runs: null, wanted: null, charger_w: null });
  });

  it('sends a precision in percent as a share', () => {
    const form = { ...planFormOf(STORED, '', KM), rules: { wanted: '7,5%' } };
    expect(planBody(form, KM).wanted).toBeCloseTo(0.075);
  });
});

describe('the rules of a question', () => {
  it('fill the fields that they have', () => {
    const rules = { end_rule: 'cutoff', speed_policy: 'flat_out', reserve: 0.1 } as Rules;
    expect(ruled(rules, { reserve: '20', wind_mps: '9' })).toEqual({
      end_rule: 'cutoff',
      policy: 'flat_out',
      typed: { reserve: '10', wind_mps: '9' },
    });
  });

  it('change nothing while they are not known', () => {
    expect(ruled(undefined, {})).toEqual({});
  });
});
