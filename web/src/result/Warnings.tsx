import type { Result } from '../api/queries';
import { Explained } from '../ui/Explained';
import { say } from '../words/en/result.ftl';
import { isAboutMethods } from './HowSure';
import classes from './Result.module.css';

/** What to know about this result and what to record next time; dangers first, and named so. */
export function Warnings({ warnings: all }: { warnings: Result['warnings'] }) {
  const warnings = all.filter((warning) => !isAboutMethods(warning));
  if (warnings.length === 0) return null;
  const stop = warnings.filter((warning) => warning.severity === 'danger');
  const rest = warnings.filter((warning) => warning.severity !== 'danger');
  return (
    <div>
      <h2>{say('notes-and-tips')}</h2>
      <ul className={classes.warnings}>
        {stop.map((warning) => (
          <li key={warning.message} className={classes.stop}>
            {say('caution')} <Explained text={warning.message} />
          </li>
        ))}
        {rest.map((warning) => (
          <li key={warning.message}>
            <Explained text={warning.message} />
          </li>
        ))}
      </ul>
    </div>
  );
}
