import type { PlanIn, Preview, Units } from '../api/queries';
import { formOf, plain, type TripForm, tripBody } from '../trip/form';

/** A plan as it is typed. */
export interface PlanForm extends TripForm {
  title: string;
  purpose: PlanIn['purpose'];
  end_rule: PlanIn['end_rule'];
  runs: string;
  wanted: string;
  counts_charge: boolean;
  charger: string;
}

type Rules = Preview['rules'];

/** The rules that a question brings, where they have a field. */
export const RULES: Record<
  NonNullable<PlanIn['purpose']>,
  { end_rule: Rules['end_rule']; policy: Rules['speed_policy']; reserve: string }
> = {
  floor: { end_rule: 'cutoff', policy: 'flat_out', reserve: '10' },
  everyday: { end_rule: 'route_end', policy: 'with_traffic', reserve: '20' },
  economy: { end_rule: 'gauge_reserve', policy: 'gentle', reserve: '20' },
  claim: { end_rule: 'cutoff', policy: 'fixed', reserve: '10' },
  compare: { end_rule: 'route_end', policy: 'fixed', reserve: '20' },
  ageing: { end_rule: 'cutoff', policy: 'fixed', reserve: '10' },
  temperature: { end_rule: 'route_end', policy: 'fixed', reserve: '20' },
  commute: { end_rule: 'route_end', policy: 'with_traffic', reserve: '20' },
};

export function planBody(form: PlanForm, units: Units): PlanIn {
  return {
    ...tripBody(form, units),
    title: form.title.trim(),
    purpose: form.purpose,
    end_rule: form.end_rule,
    runs: plain(form.runs),
    wanted: form.wanted.trim() === '' ? null : (plain(form.wanted) ?? 0) / 100,
    counts_charge: form.counts_charge,
    charger_w: form.charger.trim() === '' ? null : form.charger,
  };
}

export function planFormOf(asked: Partial<PlanIn>, title: string): PlanForm {
  return {
    ...formOf(asked),
    title,
    purpose: asked.purpose ?? 'commute',
    end_rule: asked.end_rule ?? 'route_end',
    runs: asked.runs == null ? '' : String(asked.runs),
    wanted: asked.wanted == null ? '' : String(100 * asked.wanted),
    counts_charge: asked.counts_charge ?? true,
    charger: asked.charger_w == null ? '' : `${Number(asked.charger_w)} W`,
  };
}
