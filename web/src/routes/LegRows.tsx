import { Button, Select, TextInput } from '@mantine/core';
import type { Units } from '../api/queries';
import { speedUnit } from '../format/units';
import { SURFACES } from '../format/words';
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
  const columns: Array<[keyof LegText, string, string]> = [
    ['length', 'Length', units.distance],
    ['climb', 'Up', 'm'],
    ...(one
      ? []
      : ([
          ['descent', 'Down', 'm'],
          ['bearing', 'Towards', '°'],
        ] as Array<[keyof LegText, string, string]>)),
    ['stops', 'Stops', ''],
    ...(one
      ? []
      : ([['speed', 'Speed', speedUnit(units)]] as Array<[keyof LegText, string, string]>)),
  ];
  return (
    <div style={{ overflowX: 'auto' }}>
      <table className={classes.legs}>
        <thead>
          <tr>
            {columns.map(([name, label, unit]) => (
              <th key={name}>
                {label} {unit && <small>{unit}</small>}
              </th>
            ))}
            <th>Surface</th>
            <th>
              <span className="visually-hidden">what can be done</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {shown.map((leg, index) => (
            <tr key={leg.key}>
              {columns.map(([name, label]) => (
                <td key={name}>
                  <TextInput
                    aria-label={one ? label : `${label} of leg ${index + 1}`}
                    size="xs"
                    miw={64}
                    value={leg[name]}
                    onChange={(event) => change(index, { [name]: event.currentTarget.value })}
                    error={errors[`legs.${index}.${FIELD[name]}`]}
                  />
                </td>
              ))}
              <td>
                <Select
                  aria-label={`Surface of leg ${index + 1}`}
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
                    aria-label={`Remove leg ${index + 1}`}
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
          Add a leg
        </Button>
      )}
    </div>
  );
}

const FIELD: Record<string, string> = {
  length: 'length_m',
  climb: 'climb_m',
  descent: 'descent_m',
  bearing: 'bearing_deg',
  stops: 'stops',
  speed: 'speed_mps',
};
