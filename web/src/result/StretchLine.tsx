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
import { say } from '../words/en/result.ftl';
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
      : say('mean-speed-mps-on-average', {
          mean_speed_mps: speedText(stretch.mean_speed_mps, units),
        }),
    stretch.ascent_m == null
      ? null
      : say('ascent-m-height-unit-up', {
          ascent_m: number(height(stretch.ascent_m, units), 0),
          height_unit: heightUnit(units),
        }),
    stretch.voltage_low_v == null || stretch.voltage_high_v == null
      ? null
      : say('voltage-low-v-to-voltage', {
          voltage_low_v: number(stretch.voltage_low_v, 1),
          voltage_high_v: number(stretch.voltage_high_v, 1),
        }),
  ].filter((part) => part !== null);
  return (
    <p className={classes.stretchLine} aria-live="polite">
      <b>{whole ? say('the-whole-log') : say('this-stretch')}</b> {parts.join(' · ')}
    </p>
  );
}
