import type { Forecast, Units } from '../api/queries';
import { number, pressureText, speed, speedUnit, temperatureText } from '../format/units';

/** The span over which an input was swung, in the rider's units. */
export function spanText(swing: Forecast['sensitivity'][number], units: Units): string {
  const { from, to, input } = swing;
  if (input.endsWith('_mps')) {
    return `${number(speed(from, units), 0)} to ${number(speed(to, units), 0)} ${speedUnit(units)}`;
  }
  if (input === 'temp_c') return `${temperatureText(from, units)} to ${temperatureText(to, units)}`;
  if (input === 'tyre_kpa') return `${pressureText(from, units)} to ${pressureText(to, units)}`;
  if (input.endsWith('_factor')) return 'half to one and a half';
  const share = input === 'retained_fraction' || input === 'drivetrain_efficiency';
  const scale = share ? 100 : 1;
  const unit = share
    ? ' %'
    : input.endsWith('_kg')
      ? ' kg'
      : input.endsWith('_w')
        ? ' W'
        : input.endsWith('_wh')
          ? ' Wh'
          : input.endsWith('_m2')
            ? ' m²'
            : input.endsWith('_ohm')
              ? ' Ω'
              : '';
  const text = (value: number) =>
    Math.abs(value) < 0.1
      ? value.toPrecision(2)
      : number(value * scale, value * scale < 10 ? 2 : 0);
  return `${text(from)} to ${text(to)}${unit}`;
}
