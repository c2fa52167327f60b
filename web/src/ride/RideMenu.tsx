import { Link } from 'react-router';
import { useNewVersion } from '../device/registered';
import { SAFETY } from '../format/words';
import type { Ride } from '../roadside/ride';
import { EVERY_S } from '../roadside/track';
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
  sunlight: 'Sunlight',
  light: 'Light',
  dark: 'Dark',
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
        <fieldset className={classes.three} aria-label="Theme">
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
          label="Record my track"
          about={`A fix every ${EVERY_S} s while this page is open. It costs some 5% of a phone’s battery an hour, more with the screen on. While the screen is locked there is a gap, and Limpet knows it.`}
          on={tracking.on}
          onTurn={tracking.turn}
        />
        <Toggle
          label="Speak"
          about="Alerts are spoken as well as felt."
          on={spoken}
          onTurn={onSpoken}
        />
        <Toggle
          label="Keep the screen on"
          about="While this page is open."
          on={awake}
          onTurn={onAwake}
        />
        <Link className={classes.way} to={`/tests/${ride.id}#sheet`}>
          The sheet: pack, rider, tyres, weather
        </Link>
        <Link className={classes.way} to={`/tests/${ride.id}`}>
          The result so far
        </Link>
        <Link className={classes.way} to="/ride">
          Leave this page; the ride goes on
        </Link>
        {isNew && <p role="status">A new version is ready. You can update after this ride.</p>}
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
