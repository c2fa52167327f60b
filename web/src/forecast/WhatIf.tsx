import { Button, Slider } from '@mantine/core';
import type { Forecast, TripIn, Units } from '../api/queries';
import { type FormField, lineOf } from '../format/fields';
import { chance, massText, pressureText, speedText, temperatureText } from '../format/units';
import classes from '../ui/Desk.module.css';
import { say } from '../words/en/forecast.ftl';

interface WhatIfProps {
  forecast: Forecast;
  /** With the sliders where they stand. */
  shown: Forecast;
  units: Units;
  whatIf: Partial<TripIn>;
  onChange: (whatIf: Partial<TripIn>) => void;
}

interface Lever {
  name: 'target_mps' | 'extra_load_kg' | 'wind_mps' | 'temp_c' | 'tyre_kpa';
  label: string;
  kind: FormField['kind'];
  /** A step, the ends and the usual value, in the core's unit. */
  step: number;
  from: number;
  to: number;
  start: number;
  text: (value: number) => string;
}

/** Sliders that answer while they are dragged. */
export function WhatIf({ forecast, shown, units, whatIf, onChange }: WhatIfProps) {
  const value = (name: string) => forecast.inputs.find((item) => item.name === name)?.value ?? 0;
  const usual = value('target_speed_mps');
  const levers: Lever[] = [
    {
      name: 'target_mps',
      label: say('speed'),
      kind: 'speed',
      step: 0.5,
      from: Math.max(usual * 0.5, 1.5),
      to: usual * 1.5,
      start: usual,
      text: (at) => speedText(at, units),
    },
    {
      name: 'extra_load_kg',
      label: say('extra-load'),
      kind: 'mass',
      step: 1,
      from: -20,
      to: 60,
      start: 0,
      text: (at) => `${at > 0 ? '+' : ''}${massText(at, units)}`,
    },
    {
      name: 'wind_mps',
      label: say('wind'),
      kind: 'speed',
      step: 0.5,
      from: 0,
      to: 14,
      start: Math.max(value('wind_mps'), 0),
      text: (at) => speedText(at, units),
    },
    {
      name: 'temp_c',
      label: say('temperature'),
      kind: 'temperature',
      step: 1,
      from: -10,
      to: 35,
      start: value('temp_c'),
      text: (at) => temperatureText(at, units),
    },
    {
      name: 'tyre_kpa',
      label: say('tyre-pressure'),
      kind: 'pressure',
      step: 10,
      from: 120,
      to: 450,
      start: value('tyre_kpa'),
      text: (at) => pressureText(at, units),
    },
  ];
  const moved = Object.keys(whatIf).length > 0;
  const before = forecast.route.arrives_probability;
  const after = shown.route.arrives_probability;
  return (
    <section aria-label={say('what-if')}>
      <h2>
        {say('what-if-asked')}{' '}
        {moved && (
          <span role="status">
            {say('before-becomes-after-sure', { before: chance(before), after: chance(after) })}{' '}
            <Button size="compact-xs" onClick={() => onChange({})}>
              {say('back-to-todays-conditions')}
            </Button>
          </span>
        )}
      </h2>
      <div className={classes.sliders}>
        {levers.map((lever) => {
          const at = Number(whatIf[lever.name] ?? lever.start);
          // In the reader's own unit: its steps are round, and what is read aloud is what is seen.
          const { factor, zero } = lineOf(lever.kind, units);
          const shown = (core: number) => (core - zero) / factor;
          const step = roundStep(lever.step / factor);
          return (
            <div key={lever.name} className={classes.slider}>
              <div>
                <span id={`lever-${lever.name}`}>{lever.label}</span>
                <b>{lever.text(at)}</b>
              </div>
              <Slider
                aria-labelledby={`lever-${lever.name}`}
                thumbLabel={lever.label}
                thumbProps={{ 'aria-valuetext': lever.text(at) }}
                size="sm"
                min={Math.ceil(shown(lever.from) / step) * step}
                max={Math.floor(shown(lever.to) / step) * step}
                step={step}
                label={null}
                value={shown(at)}
                onChange={(next) => onChange({ ...whatIf, [lever.name]: next * factor + zero })}
              />
            </div>
          );
        })}
      </div>
    </section>
  );
}

/** The largest round step that is no larger. */
export function roundStep(most: number): number {
  return [10, 5, 2, 1, 0.5, 0.2, 0.1].find((step) => step <= most * 1.001) ?? 0.1;
}
