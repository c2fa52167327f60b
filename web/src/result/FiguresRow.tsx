import type { Figures, Result, Units } from '../api/queries';
import {
  consumptionFigures,
  distance,
  distanceFigure,
  type Figure,
  number,
  percent,
} from '../format/units';
import { isSpan } from '../tideline/spans';
import { isOutlived } from './outlived';
import classes from './Result.module.css';
import type { Opens } from './useWorking';

interface FiguresRowProps {
  figures: Figures;
  result: Result;
  units: Units;
  opens: Opens;
  /** When it was ridden, where that is known. */
  startedAt: string | null | undefined;
}

/** The three figures, each with its interval and how it came about; each opens its formula. */
export function FiguresRow({ figures, result, units, opens, startedAt }: FiguresRowProps) {
  const outlived =
    result.plan_on != null && isOutlived(result.plan_on.months, startedAt, Date.now());
  const consumption = consumptionFigures(figures, units);
  const per = figures.wh_per_km ?? null;
  const reach = figures.range_to_cutoff ?? null;
  const reserve = figures.range_to_reserve ? distanceFigure(figures.range_to_reserve, units) : null;
  const plan = result.plan_on ? number(distance(result.plan_on.distance_m, units), 1) : null;
  const used = result.energy_used_fraction?.value;
  const how = figures.range_measured
    ? 'measured to its end'
    : used == null
      ? ''
      : `extrapolated from ${percent(used)}`;
  const kept = `${percent(figures.reserve)} kept${figures.reserve_assumed ? ', assumed' : ''}`;
  const range = reach ? distanceFigure(reach, units) : null;
  const thin = reach !== null && isSpan(reach);
  return (
    <div className={classes.figures} data-walk="figures">
      <div>
        <div className={classes.label}>{opens('wh_per_km', 'Consumption')}</div>
        <Value figure={consumption?.[0] ?? null} span={per !== null && isSpan(per)} />
        {consumption && (
          <div className={classes.under}>
            {per !== null && isSpan(per) ? 'in between' : consumption[0].span} ·{' '}
            {consumption[1].value} {consumption[1].unit}
          </div>
        )}
      </div>
      <div>
        <div className={classes.label}>{opens('range_to_cutoff', 'Range to cut-off')}</div>
        <Value figure={range} span={thin} />
        {range && (
          <div className={classes.under}>
            {thin ? how : [range.span, how].filter(Boolean).join(' · ')}
          </div>
        )}
      </div>
      <div className={classes.planned}>
        <div className={classes.label}>{opens('plan_on', `Plan on (${kept})`)}</div>
        <div className={thin ? classes.spanValue : classes.value}>
          {plan ?? '–'}
          <small>{plan ? units.distance : 'not known'}</small>
        </div>
        {plan && reserve && (
          <div className={classes.under}>
            {outlived
              ? `its ${result.plan_on?.months} months are over: ride it again`
              : '19 of 20 such rides'}
            {!outlived && !thin && ` · reserve at ${reserve.value} today`}
          </div>
        )}
      </div>
    </div>
  );
}

function Value({ figure, span }: { figure: Figure | null; span: boolean }) {
  if (figure === null) {
    return (
      <div className={classes.value}>
        –<small>not known</small>
      </div>
    );
  }
  return (
    <div className={span ? classes.spanValue : classes.value}>
      {span ? figure.span : figure.value}
      <small>{figure.unit}</small>
    </div>
  );
}
