import { SegmentedControl } from '@mantine/core';
import { useState } from 'react';
import type { Result, Units } from '../api/queries';
import {
  consumptionText,
  distance,
  distanceText,
  height,
  heightUnit,
  number,
  speedText,
} from '../format/units';
import { KIND_WORDS } from '../format/words';
import classes from './Result.module.css';

const BY = {
  entry: 'between entries',
  lap: 'laps',
  mode: 'modes',
  speed: 'by speed',
  grade: 'by slope',
} as const;
type By = keyof typeof BY;

/** Pieces of the ride: what each took, as a bar beside its figures. */
export function LegsSection({ result, units }: { result: Result; units: Units }) {
  const kinds = (Object.keys(BY) as By[]).filter((by) => result.legs.some((leg) => leg.by === by));
  const [chosen, setChosen] = useState<By | null>(null);
  const by = chosen !== null && kinds.includes(chosen) ? chosen : kinds[0];
  if (by === undefined) return null;
  const legs = result.legs.filter((leg) => leg.by === by);
  const climbed = legs.some((leg) => leg.ascent_m != null);
  const most = Math.max(...legs.map((leg) => leg.wh_per_km.value), 1);
  return (
    <section className={classes.section} aria-label="Legs">
      <div className={classes.sectionHead}>
        <h2>Legs</h2>
        {kinds.length > 1 ? (
          <SegmentedControl
            size="xs"
            aria-label="Legs by"
            data={kinds.map((kind) => ({ value: kind, label: BY[kind] }))}
            value={by}
            onChange={(value) => setChosen(value as By)}
          />
        ) : (
          <span className={classes.note}>{BY[by]}</span>
        )}
      </div>
      <div className={classes.entries}>
        <table>
          <thead>
            <tr>
              <th className={classes.words}>leg</th>
              <th>{units.distance}</th>
              <th>Wh</th>
              <th className={classes.words}>consumption</th>
              <th>speed</th>
              {climbed && <th>climb, {heightUnit(units)}</th>}
            </tr>
          </thead>
          <tbody>
            {legs.map((leg) => (
              <tr key={`${leg.name}-${leg.from_m}`}>
                <td className={classes.words}>
                  {KIND_WORDS[leg.name] ?? leg.name}
                  {leg.from_m != null && leg.to_m != null && by === 'entry' && (
                    <span className={classes.note}> to {distanceText(leg.to_m, units)}</span>
                  )}
                </td>
                <td>{number(distance(leg.distance_m, units), 2)}</td>
                <td>{number(leg.energy.value, 0)}</td>
                <td className={classes.words}>
                  <span className={classes.legBar}>
                    <span
                      style={{ width: `${(100 * Math.max(leg.wh_per_km.value, 0)) / most}%` }}
                    />
                  </span>
                  {consumptionText(leg.wh_per_km.value, units)}
                </td>
                <td>{leg.mean_speed_mps == null ? '–' : speedText(leg.mean_speed_mps, units)}</td>
                {climbed && (
                  <td>{leg.ascent_m == null ? '–' : number(height(leg.ascent_m, units), 0)}</td>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
