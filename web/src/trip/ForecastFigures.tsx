import type { Forecast, Units } from '../api/queries';
import {
  chance,
  distance,
  distanceFigure,
  number,
  percent,
  plainFigure,
  speed,
  speedUnit,
} from '../format/units';
import classes from '../ui/Desk.module.css';

interface ForecastFiguresProps {
  forecast: Forecast;
  units: Units;
  enoughM?: number | null;
}

/** The figures of a forecast, each with its unit and its ±. */
export function ForecastFigures({ forecast, units, enoughM }: ForecastFiguresProps) {
  const perDistance =
    units.distance === 'mi'
      ? plainFigure(forecast.consumption.wh_per_mi, 'Wh/mi')
      : plainFigure(forecast.consumption.wh_per_km, 'Wh/km');
  const reserve = distanceFigure(forecast.range_to_reserve, units);
  const left = forecast.route.energy_left_fraction;
  const shown: Array<{ label: string; value: string; unit: string; under: string }> = [
    {
      label: 'left at the end',
      value: percent(left.value),
      unit: '',
      under: `${percent(left.low)} to ${percent(left.high)}`,
    },
    {
      label: `range, ${percent(forecast.reserve)} kept`,
      value: reserve.value,
      unit: reserve.unit,
      under: reserve.span,
    },
    {
      label: 'consumption',
      value: perDistance.value,
      unit: perDistance.unit,
      under: `±${perDistance.plusMinus}`,
    },
  ];
  if (forecast.turn_point) {
    shown.push({
      label: 'turn by',
      value: number(distance(forecast.turn_point.distance_m, units), 1),
      unit: units.distance,
      under: `${chance(forecast.turn_point.probability)} sure to be back`,
    });
  }
  if (forecast.slow_to) {
    shown.push({
      label: 'slow to',
      value: number(speed(forecast.slow_to.speed_mps, units), 0),
      unit: speedUnit(units),
      under: `${chance(forecast.slow_to.probability)} sure`,
    });
  }
  if (enoughM != null) {
    shown.push({
      label: 'enough at',
      value: number(distance(enoughM, units), 1),
      unit: units.distance,
      under: 'range known well',
    });
  }
  return (
    <div className={classes.figures}>
      {shown.map((item) => (
        <div key={item.label} className={classes.figure}>
          <i>{item.label}</i>
          <b>{item.value}</b> <small>{item.unit}</small>
          <i>{item.under}</i>
        </div>
      ))}
    </div>
  );
}
