import type { PlanIn, Rules, Units } from '../api/queries';
import { fieldsOf, sentFields, type TypedFields, typedFields } from '../format/fields';
import { formOf, plain, type TripForm, tripBody } from '../trip/form';

const PLAN = fieldsOf('plan');

/** A plan as it is typed. */
export interface PlanForm extends TripForm {
  title: string;
  purpose: PlanIn['purpose'];
  end_rule: PlanIn['end_rule'];
  runs: string;
  counts_charge: boolean;
  /** The plan's own numbers by the core's names. */
  rules: TypedFields;
}

/** What a question's rules put into the form. */
export function ruled(rules: Rules | undefined, typed: TypedFields): Partial<PlanForm> {
  if (rules === undefined) return {};
  return {
    end_rule: rules.end_rule,
    policy: rules.speed_policy,
    typed: { ...typed, reserve: String(Math.round(100 * rules.reserve)) },
  };
}

export function planBody(form: PlanForm, units: Units): PlanIn {
  return {
    ...tripBody(form, units),
    ...sentFields(PLAN, form.rules, units),
    title: form.title.trim(),
    purpose: form.purpose,
    end_rule: form.end_rule,
    runs: plain(form.runs),
    counts_charge: form.counts_charge,
  };
}

export function planFormOf(asked: Partial<PlanIn>, title: string, units: Units): PlanForm {
  return {
    ...formOf(asked, units),
    title,
    purpose: asked.purpose ?? 'commute',
    end_rule: asked.end_rule ?? 'route_end',
    runs: asked.runs == null ? '' : String(asked.runs),
    counts_charge: asked.counts_charge ?? true,
    rules: typedFields(PLAN, asked, units),
  };
}
