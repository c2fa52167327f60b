import { Button, Slider } from '@mantine/core';
import type { Forecast, TripIn, Units } from '../api/queries';
import {
  chance,
  massText,
  number,
  pressureText,
  speed,
  speedUnit,
  temperatureText,
} from '../format/units';
import classes from '../ui/Desk.module.css';

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
  from: number;
  to: number;
  step: number;
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
      label: 'Speed',
      from: Math.max(usual * 0.5, 1.5),
      to: usual * 1.5,
      step: 0.1,
      start: usual,
      text: (at) => `${number(speed(at, units), 0)} ${speedUnit(units)}`,
    },
    {
      name: 'extra_load_kg',
      label: 'Extra load',
      from: -20,
      to: 60,
      step: 1,
      start: 0,
      text: (at) => `${at > 0 ? '+' : ''}${massText(at, units)}`,
    },
    {
      name: 'wind_mps',
      label: 'Wind',
      from: 0,
      to: 14,
      step: 0.5,
      start: Math.max(value('wind_mps'), 0),
      text: (at) => `${number(speed(at, units), 0)} ${speedUnit(units)}`,
    },
    {
      name: 'temp_c',
      label: 'Temperature',
      from: -10,
      to: 35,
      step: 1,
      start: value('temp_c'),
      text: (at) => temperatureText(at, units),
    },
    {
      name: 'tyre_kpa',
      label: 'Tyre pressure',
      from: 120,
      to: 450,
      step: 10,
      start: value('tyre_kpa'),
      text: (at) => pressureText(at, units),
    },
  ];
  const moved = Object.keys(whatIf).length > 0;
  const before = forecast.route.arrives_probability;
  const after = shown.route.arrives_probability;
  return (
    <section aria-label="What if">
      <h2>
        What if?{' '}
        {moved && (
          <span role="status">
            {chance(before)} becomes {chance(after)} sure.{' '}
            <Button size="compact-xs" onClick={() => onChange({})}>
              Back to today’s conditions
            </Button>
          </span>
        )}
      </h2>
      <div className={classes.sliders}>
        {levers.map((lever) => {
          const at = Number(whatIf[lever.name] ?? lever.start);
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
                min={lever.from}
                max={lever.to}
                step={lever.step}
                label={null}
                value={at}
                onChange={(next) => onChange({ ...whatIf, [lever.name]: next })}
              />
            </div>
          );
        })}
      </div>
    </section>
  );
}
