import type { Schemas } from '../api/client';
import type { Figures, Quantity, Units } from '../api/queries';
import { consumptionFigures, distanceFigure, distanceText, type Figure } from '../format/units';
import { say } from '../words/en/result.ftl';

type Changed = Schemas['ChangedOut'];

/** Each figure that is another now: what it was and what it is. */
export function changesOf(
  changed: Changed,
  figures: Figures,
  planM: number | null,
  units: Units,
): string[] {
  const consumption = (of: Pick<Figures, 'wh_per_km' | 'wh_per_mi'>) =>
    consumptionFigures(of, units)?.[0] ?? null;
  const range = (of: Quantity | null | undefined) => (of ? distanceFigure(of, units) : null);
  const metres = (of: number | null) => (of === null ? null : distanceText(of, units));
  return [
    line(
      say('range-to-cut-off'),
      said(range(changed.range_to_cutoff)),
      said(range(figures.range_to_cutoff)),
    ),
    line(say('consumption-title'), said(consumption(changed)), said(consumption(figures))),
    line(say('plan-on'), metres(changed.plan_on_m ?? null), metres(planM)),
  ].filter((text) => text !== null);
}

function said(figure: Figure | null): string | null {
  return figure && `${figure.value} ${figure.unit} (${figure.span})`;
}

function line(what: string, was: string | null, is: string | null): string | null {
  if (was === is) return null;
  return say('what-was-was-now-is', {
    what,
    was: was ?? say('not-known'),
    is: is ?? say('not-known'),
  });
}
