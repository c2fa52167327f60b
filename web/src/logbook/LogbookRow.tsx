import { Link } from 'react-router';
import { isDue, type TestRow, type Units } from '../api/queries';
import { consumptionFigures, day, distanceFigure } from '../format/units';
import { Tideline } from '../tideline/Tideline';
import classes from './Logbook.module.css';

interface LogbookRowProps {
  test: TestRow;
  lengthM: number;
  units: Units;
}

/** One test: what it was, its strip, and two figures. */
export function LogbookRow({ test, lengthM, units }: LogbookRowProps) {
  const riding = test.state === 'riding';
  const { figures, strip } = test;
  const consumption = figures ? consumptionFigures(figures, units)?.[0] : null;
  const range = figures?.range_to_cutoff ? distanceFigure(figures.range_to_cutoff, units) : null;
  const about = [test.vehicle_name, test.pack_name, test.rider_name].filter(Boolean).join(' · ');
  const nothing =
    isDue(test) && !riding
      ? 'being computed'
      : test.computed === 'failed'
        ? 'not computed'
        : 'not known';
  return (
    <Link to={riding ? `/ride/${test.id}` : `/tests/${test.id}`} className={classes.row}>
      <div>
        <div className={classes.title}>{test.title}</div>
        <div className={classes.meta}>
          {riding ? 'under way' : day(test.started_at)} · {about}
        </div>
      </div>
      {strip ? (
        <Tideline strip={strip} units={units} lengthM={lengthM} height={42} bare />
      ) : (
        <div className={classes.meta}>{test.trouble}</div>
      )}
      <div className={classes.figure}>
        {consumption ? (
          <>
            <b>{consumption.value}</b>
            <small>{consumption.unit}</small>
            <div>± {consumption.plusMinus}</div>
          </>
        ) : (
          <div>{nothing}</div>
        )}
      </div>
      <div className={classes.figure}>
        {range ? (
          <>
            <b>{range.value}</b>
            <small>{range.unit}</small>
            <div>{figures?.range_measured ? 'measured' : range.span}</div>
          </>
        ) : (
          <div>{nothing}</div>
        )}
      </div>
    </Link>
  );
}
