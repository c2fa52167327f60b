import type { Forecast } from '../api/queries';
import classes from '../ui/Desk.module.css';
import { Explained } from '../ui/Explained';
import { say } from '../words/en/trip.ftl';

const STOP = ['beyond_any_charge', 'may_not_arrive', 'storm', 'cutoff_below_floor', 'cold_charge'];
/** Said by the headline already. */
const SILENT = ['slow_to_not_needed'];

interface ForecastWarningsProps {
  warnings: Forecast['warnings'];
  more?: readonly string[];
}

/** What must be heard before setting out. */
export function ForecastWarnings({ warnings, more = [] }: ForecastWarningsProps) {
  const shown = warnings.filter((warning) => !SILENT.includes(warning.code));
  if (shown.length === 0 && more.length === 0) return null;
  return (
    <ul className={classes.warnings} aria-label={say('cautions')}>
      {shown.map((warning) => (
        <li key={warning.code} className={STOP.includes(warning.code) ? classes.stop : ''}>
          <Explained text={warning.message} />
        </li>
      ))}
      {more.map((message) => (
        <li key={message}>
          <Explained text={message} />
        </li>
      ))}
    </ul>
  );
}
