import { updateNow, useNewVersion } from '../device/registered';
import classes from './Shell.module.css';

/** One key for the newer version. It is never there during a ride, which has no shell. */
export function UpdateBar() {
  if (!useNewVersion()) return null;
  return (
    <div className={classes.offline} role="status">
      A new version of Limpet is ready.{' '}
      <button type="button" className={classes.update} onClick={updateNow}>
        Update now
      </button>
    </div>
  );
}
