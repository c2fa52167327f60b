import type { Figures, Result, Units } from '../api/queries';
import { consumptionFigures, distance, distanceFigure, number, percent } from '../format/units';
import classes from './Result.module.css';

interface FiguresRowProps {
  figures: Figures;
  result: Result;
  units: Units;
}

/** The three figures, each with its interval and how it came about. */
export function FiguresRow({ figures, result, units }: FiguresRowProps) {
  const consumption = consumptionFigures(figures, units);
  const range = figures.range_to_cutoff ? distanceFigure(figures.range_to_cutoff, units) : null;
  const reserve = figures.range_to_reserve ? distanceFigure(figures.range_to_reserve, units) : null;
  const plan = result.plan_on ? number(distance(result.plan_on.distance_m, units), 1) : null;
  const used = result.energy_used_fraction?.value;
  const how = figures.range_measured
    ? 'measured to its end'
    : used == null
      ? ''
      : `extrapolated from ${percent(used)}`;
  const kept = `${percent(figures.reserve)} kept${figures.reserve_assumed ? ', assumed' : ''}`;
  return (
    <div className={classes.figures}>
      <div>
        <div className={classes.label}>Consumption</div>
        <div className={classes.value}>
          {consumption?.[0].value ?? '–'}
          <small>{consumption?.[0].unit ?? 'not known'}</small>
        </div>
        {consumption && (
          <div className={classes.under}>
            {consumption[0].span} · {consumption[1].value} {consumption[1].unit}
          </div>
        )}
      </div>
      <div>
        <div className={classes.label}>Range to cut-off</div>
        <div className={classes.value}>
          {range?.value ?? '–'}
          <small>{range?.unit ?? 'not known'}</small>
        </div>
        {range && (
          <div className={classes.under}>
            {range.span} · {how}
          </div>
        )}
      </div>
      <div className={classes.planned}>
        <div className={classes.label}>Plan on ({kept})</div>
        <div className={classes.value}>
          {plan ?? '–'}
          <small>{plan ? units.distance : 'not known'}</small>
        </div>
        {plan && reserve && (
          <div className={classes.under}>
            19 of 20 such rides · reserve at {reserve.value} today
          </div>
        )}
      </div>
    </div>
  );
}
