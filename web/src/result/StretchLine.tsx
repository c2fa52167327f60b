import type { Traces, Units } from '../api/queries';
import {
  consumptionText,
  distanceText,
  elapsed,
  height,
  heightUnit,
  number,
  speedText,
} from '../format/units';
import classes from './Result.module.css';

interface StretchLineProps {
  stretch: Traces['stretch'];
  whole: boolean;
  units: Units;
}

/** What is shown, in figures of its own. */
export function StretchLine({ stretch, whole, units }: StretchLineProps) {
  const parts = [
    stretch.distance_m == null ? null : distanceText(stretch.distance_m, units),
    elapsed(stretch.to_s - stretch.from_s),
    stretch.wh_per_km == null ? null : consumptionText(stretch.wh_per_km, units),
    stretch.energy_wh == null ? null : `${number(stretch.energy_wh, 0)} Wh`,
    stretch.mean_speed_mps == null
      ? null
      : `${speedText(stretch.mean_speed_mps, units)} on average`,
    stretch.ascent_m == null
      ? null
      : `${number(height(stretch.ascent_m, units), 0)} ${heightUnit(units)} up`,
    stretch.voltage_low_v == null || stretch.voltage_high_v == null
      ? null
      : `${number(stretch.voltage_low_v, 1)} to ${number(stretch.voltage_high_v, 1)} V`,
  ].filter((part) => part !== null);
  return (
    <p className={classes.stretchLine} aria-live="polite">
      <b>{whole ? 'The whole log' : 'This stretch'}</b> {parts.join(' · ')}
    </p>
  );
}
