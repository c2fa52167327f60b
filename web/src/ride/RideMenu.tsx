import { Link } from 'react-router';
import { useNewVersion } from '../device/registered';
import { SAFETY } from '../format/words';
import type { Ride } from '../roadside/ride';
import { EVERY_S } from '../roadside/track';
import { say } from '../words/en/ride.ftl';
import classes from './Pad.module.css';
import { RIDE_THEMES, type RideTheme } from './rideTheme';
import { SheetFoot } from './SheetFoot';
import type { Tracking } from './useTrack';

interface RideMenuProps {
  ride: Ride;
  theme: RideTheme;
  tracking: Tracking;
  spoken: boolean;
  onSpoken: (on: boolean) => void;
  awake: boolean;
  onAwake: (on: boolean) => void;
  onTheme: (theme: RideTheme) => void;
  onClose: () => void;
}

const THEME_WORDS: Record<RideTheme, string> = {
  sunlight: say('sunlight'),
  light: say('light'),
  dark: say('dark'),
};

/** What is seldom wanted on the way. */
export function RideMenu({
  ride,
  theme,
  onTheme,
  tracking,
  spoken,
  onSpoken,
  awake,
  onAwake,
  onClose,
}: RideMenuProps) {
  const isNew = useNewVersion();
  return (
    <div className={classes.pad}>
      <div className={classes.more}>
        <fieldset className={classes.three} aria-label={say('theme')}>
          {RIDE_THEMES.map((one) => (
            <button
              key={one}
              type="button"
              className={classes.choice}
              aria-pressed={theme === one}
              onClick={() => onTheme(one)}
            >
              {THEME_WORDS[one]}
            </button>
          ))}
        </fieldset>
        <Toggle
          label={say('record-my-track')}
          about={say('a-fix-every-s-while', { every_s: EVERY_S })}
          on={tracking.on}
          onTurn={tracking.turn}
        />
        <Toggle
          label={say('speak')}
          about={say('alerts-are-spoken-as-well')}
          on={spoken}
          onTurn={onSpoken}
        />
        <Toggle
          label={say('keep-the-screen-on')}
          about={say('while-this-page-is-open')}
          on={awake}
          onTurn={onAwake}
        />
        <Link className={classes.way} to={`/tests/${ride.id}#sheet`}>
          {say('the-sheet-pack-rider-tyres')}
        </Link>
        <Link className={classes.way} to={`/tests/${ride.id}`}>
          {say('the-result-so-far')}
        </Link>
        <Link className={classes.way} to="/ride">
          {say('leave-this-page-the-ride')}
        </Link>
        {isNew && <p role="status">{say('a-new-version-is-ready')}</p>}
        <p>
          {SAFETY.standing} {SAFETY.fading}
        </p>
      </div>
      <SheetFoot onBack={onClose} />
    </div>
  );
}

interface ToggleProps {
  label: string;
  about: string;
  on: boolean;
  onTurn: (on: boolean) => void;
}

function Toggle({ label, about, on, onTurn }: ToggleProps) {
  return (
    <button
      type="button"
      role="switch"
      aria-checked={on}
      aria-label={label}
      className={classes.toggle}
      onClick={() => onTurn(!on)}
    >
      <b>
        {label}: {on ? 'on' : 'off'}
      </b>
      <small>{about}</small>
    </button>
  );
}
