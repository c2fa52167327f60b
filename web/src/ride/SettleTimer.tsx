import { useInterval } from '@mantine/hooks';
import { useState } from 'react';
import { say } from '../words/en/ride.ftl';
import { Shown } from '../words/Shown';
import classes from './Pad.module.css';
import { buzz } from './signals';

/** Half a minute says little, ten settle most of it; which one is had is the rider's time. */
const WAITS_S = [30, 60, 600];

/** A timer for the volts at rest: it buzzes when they are worth reading. */
export function SettleTimer() {
  const [untilMs, setUntilMs] = useState<number | null>(null);
  const [now, setNow] = useState(() => Date.now());
  const left = untilMs === null ? 0 : Math.max(Math.ceil((untilMs - now) / 1000), 0);
  const ticking = useInterval(() => {
    const time = Date.now();
    setNow(time);
    if (untilMs !== null && time >= untilMs) {
      ticking.stop();
      buzz();
    }
  }, 500);
  const begin = (seconds: number) => {
    setNow(Date.now());
    setUntilMs(Date.now() + seconds * 1000);
    ticking.start();
  };
  if (untilMs !== null && left > 0) {
    return (
      <p className={classes.timer} role="timer">
        <Shown
          say={say}
          id="throttle-closed-it-buzzes-when"
          values={{ minutes: Math.floor(left / 60), seconds: String(left % 60).padStart(2, '0') }}
          parts={{ b: <b /> }}
        />
      </p>
    );
  }
  return (
    <fieldset className={classes.timer} aria-label={say('let-the-pack-rest')}>
      <span>
        {untilMs === null ? say('let-the-pack-rest-for') : say('read-the-resting-volts-now')}
      </span>
      {WAITS_S.map((seconds) => (
        <button
          key={seconds}
          type="button"
          className={classes.choice}
          onClick={() => begin(seconds)}
        >
          {seconds < 60 ? `${seconds} s` : `${seconds / 60} min`}
        </button>
      ))}
    </fieldset>
  );
}
