import type { Figures, Result, Units } from '../api/queries';
import { consumptionFigures, distance, distanceFigure, number, percent } from '../format/units';
import { isSpan } from '../tideline/spans';
import { say } from '../words/en/result.ftl';
import { isOutlived } from './outlived';

/** One of the three figures that stand under the sentence. */
export interface Headline {
  name: 'wh_per_km' | 'range_to_cutoff' | 'plan_on';
  label: string;
  value: string;
  unit: string;
  /** How sure, and how it came about. */
  under: string;
  /** So uncertain that its two ends are the figure. */
  span: boolean;
}

const NOT_KNOWN = { value: '–', unit: say('not-known'), under: '', span: false };

/** Consumption, range to cut-off and what to plan on, as they are read. */
export function threeFigures(
  figures: Figures,
  result: Result,
  units: Units,
  startedAt: string | null | undefined,
): Headline[] {
  return [
    { name: 'wh_per_km', label: say('consumption-title'), ...consumptionOf(figures, units) },
    { name: 'range_to_cutoff', label: say('range-to-cut-off'), ...rangeOf(figures, result, units) },
    { name: 'plan_on', ...planOf(figures, result, units, startedAt) },
  ];
}

function consumptionOf(figures: Figures, units: Units) {
  const found = consumptionFigures(figures, units);
  if (!found || !figures.wh_per_km) return NOT_KNOWN;
  const [first, second] = found;
  const span = isSpan(figures.wh_per_km);
  return {
    value: span ? first.span : first.value,
    unit: first.unit,
    under: `${span ? say('in-between') : first.span} · ${second.value} ${second.unit}`,
    span,
  };
}

function rangeOf(figures: Figures, result: Result, units: Units) {
  const reach = figures.range_to_cutoff;
  if (!reach) return NOT_KNOWN;
  const found = distanceFigure(reach, units);
  const span = isSpan(reach);
  const used = result.energy_used_fraction?.value;
  const how = figures.range_measured
    ? say('measured-to-its-end')
    : used == null
      ? ''
      : say('extrapolated-from-used', { used: percent(used) });
  return {
    value: span ? found.span : found.value,
    unit: found.unit,
    under: span ? how : [found.span, how].filter(Boolean).join(' · '),
    span,
  };
}

function planOf(
  figures: Figures,
  result: Result,
  units: Units,
  startedAt: string | null | undefined,
) {
  const label = say('plan-on-kept', {
    reserve: percent(figures.reserve),
    reserve_assumed: figures.reserve_assumed ? say('assumed') : '',
  });
  const span = figures.range_to_cutoff != null && isSpan(figures.range_to_cutoff);
  if (!result.plan_on) return { label, ...NOT_KNOWN, span };
  const { distance_m, months } = result.plan_on;
  const outlived = isOutlived(months, startedAt, Date.now());
  const reserve = figures.range_to_reserve ? distanceFigure(figures.range_to_reserve, units) : null;
  const under = outlived
    ? say('its-months-are-over-ride', { months })
    : [
        say('n-19-of-20-such-rides'),
        reserve && !span ? say('reserve-at-today', { reserve: reserve.value }) : '',
      ]
        .filter(Boolean)
        .join(' · ');
  return {
    label,
    value: number(distance(distance_m, units), 1),
    unit: units.distance,
    under: reserve ? under : '',
    span,
  };
}
