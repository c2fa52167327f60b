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
import { say } from '../words/en/trip.ftl';

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
      label: say('left-at-the-end'),
      value: percent(left.value),
      unit: '',
      under: say('low-to-high', { low: percent(left.low), high: percent(left.high) }),
    },
    {
      label: say('range-reserve-kept', { reserve: percent(forecast.reserve) }),
      value: reserve.value,
      unit: reserve.unit,
      under: reserve.span,
    },
    {
      label: say('consumption'),
      value: perDistance.value,
      unit: perDistance.unit,
      under: `±${perDistance.plusMinus}`,
    },
  ];
  if (forecast.turn_point) {
    shown.push({
      label: say('turn-by'),
      value: number(distance(forecast.turn_point.distance_m, units), 1),
      unit: units.distance,
      under: say('sure-to-be-back', { probability: chance(forecast.turn_point.probability) }),
    });
  }
  if (forecast.slow_to) {
    shown.push({
      label: say('slow-to'),
      value: number(speed(forecast.slow_to.speed_mps, units), 0),
      unit: speedUnit(units),
      under: say('probability-sure', { probability: chance(forecast.slow_to.probability) }),
    });
  }
  if (enoughM != null) {
    shown.push({
      label: say('enough-at'),
      value: number(distance(enoughM, units), 1),
      unit: units.distance,
      under: say('range-known-well'),
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
