import { updateNow, useNewVersion } from '../device/registered';
import { say } from '../words/en/shell.ftl';
import classes from './Shell.module.css';

/** One key for the newer version. It is never there during a ride, which has no shell. */
export function UpdateBar() {
  if (!useNewVersion()) return null;
  return (
    <div className={classes.offline} role="status">
      {say('a-new-version-of-limpet')}{' '}
      <button type="button" className={classes.update} onClick={updateNow}>
        {say('update-now')}
      </button>
    </div>
  );
}
