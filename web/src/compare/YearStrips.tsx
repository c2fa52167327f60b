import { Link } from 'react-router';
import type { TestRow, Units } from '../api/queries';
import { day, distanceText } from '../format/units';
import { reachOf } from '../tideline/geometry';
import { Tideline } from '../tideline/Tideline';
import parts from '../ui/Parts.module.css';
import { say } from '../words/en/compare.ftl';
import classes from './Compare.module.css';

/** A pack's tests as small tidelines, the oldest first, on one scale: how they shorten is its age. */
export function YearStrips({ tests, units }: { tests: readonly TestRow[]; units: Units }) {
  const drawn = [...tests]
    .filter((test) => test.strip != null)
    .sort((a, b) => (a.started_at ?? '').localeCompare(b.started_at ?? ''));
  const lengthM = 1.02 * Math.max(...drawn.map(({ strip }) => (strip ? reachOf(strip) : 0)), 1);
  if (drawn.length === 0) return null;
  return (
    <section className={parts.section} aria-label={say('its-tests-oldest-first')}>
      <h2>{say('its-tests-oldest-first')}</h2>
      <ol className={classes.years}>
        {drawn.map(({ id, title, started_at, strip }) => {
          const end = strip?.cutoff_m?.[1] ?? strip?.ridden_m;
          return (
            <li key={id}>
              <Link to={`/tests/${id}`} title={title}>
                {day(started_at) || title}
              </Link>
              {strip && <Tideline strip={strip} units={units} lengthM={lengthM} height={34} bare />}
              <span>{end == null ? '' : distanceText(end, units)}</span>
            </li>
          );
        })}
      </ol>
      <p className={parts.note}>{say('as-ridden-on-one-scale')}</p>
    </section>
  );
}
