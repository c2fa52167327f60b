import { Radio, Select, Switch, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { type PlanIn, type Preview, rulesQuery, type Units } from '../api/queries';
import { fieldOf } from '../format/fields';
import { percent } from '../format/units';
import { END_RULES, PURPOSES } from '../format/words';
import classes from '../ui/Desk.module.css';
import { FieldInput } from '../ui/FieldInput';
import { say } from '../words/en/plan.ftl';
import { type PlanForm, ruled } from './planForm';

interface QuestionFieldsProps {
  form: PlanForm;
  units: Units;
  rules: Preview['rules'] | undefined;
  errors: Record<string, string>;
  onChange: (change: Partial<PlanForm>) => void;
}

/** The eight questions, and the rules that the chosen one implies, filled in. */
export function QuestionFields({ form, units, rules, errors, onChange }: QuestionFieldsProps) {
  const purpose = form.purpose ?? 'commute';
  const all = useQuery(rulesQuery).data ?? [];
  // The preview's rules carry what was changed in them; until it is there the question's own stand,
  // so that nothing moves when it arrives.
  const shown = rules?.purpose === purpose ? rules : all.find((item) => item.purpose === purpose);
  const typed = (name: string) => ({
    field: fieldOf('plan', name),
    units,
    typed: form.rules[name] ?? '',
    onType: (text: string) => onChange({ rules: { ...form.rules, [name]: text } }),
    error: errors[name],
  });
  return (
    <>
      <h2>{say('what-are-you-testing')}</h2>
      <Radio.Group
        aria-label={say('what-are-you-testing')}
        value={purpose}
        onChange={(value) => {
          const chosen = value as NonNullable<PlanIn['purpose']>;
          onChange({
            purpose: chosen,
            ...ruled(
              all.find((item) => item.purpose === chosen),
              form.typed,
            ),
          });
        }}
      >
        <div className={classes.questions}>
          {PURPOSES.map((item) => (
            <Radio key={item.value} value={item.value} label={item.label} />
          ))}
        </div>
      </Radio.Group>
      <h2>{say('its-rules')}</h2>
      {shown && (
        <p className={classes.why}>
          {say('for-throttle-only-stops', {
            why: shown.why,
            runs: shown.runs,
            wanted: percent(shown.wanted),
            stops: shown.stops,
          })}
        </p>
      )}
      <Select
        label={say('it-ends')}
        data={[...END_RULES]}
        value={form.end_rule ?? 'route_end'}
        onChange={(value) => onChange({ end_rule: value as PlanForm['end_rule'] })}
      />
      <div className={classes.two}>
        <TextInput
          label={say('name')}
          placeholder={labelFor(form)}
          value={form.title}
          onChange={(event) => onChange({ title: event.currentTarget.value })}
          error={errors.title}
        />
        <FieldInput
          {...typed('wanted')}
          placeholder={shown ? String(Math.round(100 * shown.wanted)) : ''}
        />
        <FieldInput {...typed('charger_w')} placeholder={say('a-usual-one')} />
        <TextInput
          label={say('runs')}
          placeholder={shown ? String(shown.runs) : ''}
          inputMode="numeric"
          value={form.runs}
          onChange={(event) => onChange({ runs: event.currentTarget.value })}
          error={errors.runs}
        />
      </div>
      <Switch
        label={say('amp-hours-or-watt-hours')}
        checked={form.counts_charge}
        onChange={(event) => onChange({ counts_charge: event.currentTarget.checked })}
      />
    </>
  );
}

function labelFor(form: PlanForm): string {
  return PURPOSES.find((item) => item.value === form.purpose)?.label ?? '';
}
