import { Button, Select, TextInput } from '@mantine/core';
import type { Units } from '../api/queries';
import { fieldOf, unitOf } from '../format/fields';
import { SURFACES } from '../format/words';
import { say } from '../words/en/routes.ftl';
import { BLANK_LEG, type LegText } from './legForm';
import classes from './Routes.module.css';

interface LegRowsProps {
  legs: LegText[];
  units: Units;
  errors: Record<string, string>;
  /** A lap is one leg. */
  one: boolean;
  onChange: (legs: LegText[]) => void;
}

/** Legs as rows: length, climb, descent, bearing, surface, stops, speed. */
export function LegRows({ legs, units, errors, one, onChange }: LegRowsProps) {
  const shown = one ? legs.slice(0, 1) : legs;
  const change = (index: number, changed: Partial<LegText>) =>
    onChange(legs.map((leg, at) => (at === index ? { ...leg, ...changed } : leg)));
  const names = one
    ? ['length_m', 'climb_m', 'stops']
    : ['length_m', 'climb_m', 'descent_m', 'bearing_deg', 'stops', 'speed_mps'];
  const columns = names.map((name) => fieldOf('leg', name));
  return (
    <div style={{ overflowX: 'auto' }}>
      <table className={classes.legs}>
        <thead>
          <tr>
            {columns.map((field) => (
              <th key={field.name}>
                {field.label}{' '}
                <small>{field.name === 'bearing_deg' ? '°' : unitOf(field, units)}</small>
              </th>
            ))}
            <th>{say('surface')}</th>
            <th>
              <span className="visually-hidden">{say('what-can-be-done')}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {shown.map((leg, index) => (
            <tr key={leg.key}>
              {columns.map((field) => (
                <td key={field.name}>
                  <TextInput
                    aria-label={
                      one
                        ? field.label
                        : say('field-of-leg-index', { field: field.label, index: index + 1 })
                    }
                    size="xs"
                    miw={64}
                    value={leg.typed[field.name] ?? ''}
                    onChange={(event) =>
                      change(index, {
                        typed: { ...leg.typed, [field.name]: event.currentTarget.value },
                      })
                    }
                    error={errors[`legs.${index}.${field.name}`]}
                  />
                </td>
              ))}
              <td>
                <Select
                  aria-label={say('surface-of-leg', { index: index + 1 })}
                  size="xs"
                  miw={130}
                  data={[...SURFACES]}
                  value={leg.surface}
                  onChange={(value) => change(index, { surface: value as LegText['surface'] })}
                />
              </td>
              <td>
                {!one && legs.length > 1 && (
                  <Button
                    size="compact-xs"
                    aria-label={say('remove-leg-index', { index: index + 1 })}
                    onClick={() => onChange(legs.filter((_, at) => at !== index))}
                  >
                    ✕
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {!one && (
        <Button
          size="compact-sm"
          mt={6}
          onClick={() => onChange([...legs, { ...BLANK_LEG, key: crypto.randomUUID() }])}
        >
          {say('add-a-leg')}
        </Button>
      )}
    </div>
  );
}
