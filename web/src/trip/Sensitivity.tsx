import { memo } from 'react';
import type { Forecast, Units } from '../api/queries';
import { spanText } from '../format/inputs';
import { distance, number } from '../format/units';
import { INPUT_WORDS } from '../format/words';
import classes from '../ui/Desk.module.css';
import { say } from '../words/en/trip.ftl';

interface SensitivityProps {
  forecast: Forecast;
  units: Units;
}

const SHOWN = 8;

/** What matters most: each input over its plausible span, by what it does to the range. */
export const Sensitivity = memo(function Sensitivity({ forecast, units }: SensitivityProps) {
  const swings = forecast.sensitivity.slice(0, SHOWN);
  if (swings.length === 0) return null;
  const ends = swings.flatMap((swing) => [swing.range_low_m, swing.range_high_m]);
  const low = Math.min(...ends) * 0.98;
  const span = Math.max(...ends) * 1.02 - low;
  const at = (metres: number) => `${(100 * (metres - low)) / span}%`;
  const middle = forecast.range_to_cutoff.value;
  return (
    <section aria-label={say('what-matters-most')}>
      <h2>{say('what-matters-most')}</h2>
      <div className={classes.swings}>
        {swings.map((swing) => {
          const left = Math.min(swing.range_low_m, swing.range_high_m);
          const right = Math.max(swing.range_low_m, swing.range_high_m);
          const words = say('left-to-right-distance', {
            left: number(distance(left, units)),
            right: number(distance(right, units)),
            distance: units.distance,
          });
          return (
            <div key={swing.input} className={classes.swing}>
              <span>
                {INPUT_WORDS[swing.input] ?? swing.input}
                <br />
                <small style={{ color: 'var(--soft)' }}>{spanText(swing, units)}</small>
              </span>
              <div className={classes.bar} role="img" aria-label={say('range-words', { words })}>
                <span style={{ left: at(left), width: `${(100 * (right - left)) / span}%` }} />
                <em style={{ left: at(middle) }} />
              </div>
              <span className={classes.number}>{words}</span>
            </div>
          );
        })}
      </div>
    </section>
  );
});
