import type { Units } from '../api/queries';
import { distance } from '../format/units';
import { ticks } from '../tideline/geometry';
import { say } from '../words/en/logbook.ftl';
import classes from './Logbook.module.css';

/** The one distance scale that all rows share. */
export function LogbookScale({ lengthM, units }: { lengthM: number; units: Units }) {
  const longest = distance(lengthM, units);
  return (
    <div className={classes.scale} aria-hidden="true">
      <span />
      <div className={classes.ticks}>
        {ticks(longest).map((tick) => (
          <span key={tick} style={{ left: `${(100 * tick) / longest}%` }}>
            {tick === 0 ? `0 ${units.distance}` : tick}
          </span>
        ))}
      </div>
      <span className={classes.right}>{say('consumption')}</span>
      <span className={classes.right}>{say('range-to-cut-off')}</span>
    </div>
  );
}
