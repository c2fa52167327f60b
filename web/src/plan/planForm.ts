import type { PlanIn, Rules, Units } from '../api/queries';
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

/** What a question's rules put into the form. */
export function ruled(rules: Rules | undefined): Partial<PlanForm> {
  if (rules === undefined) return {};
  return {
    end_rule: rules.end_rule,
    policy: rules.speed_policy,
    reserve: String(Math.round(100 * rules.reserve)),
  };
}

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
