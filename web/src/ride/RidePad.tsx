import { useRef } from 'react';
import { isStanding, lapsOf, type Ride } from '../roadside/ride';
import { say } from '../words/en/ride.ftl';
import classes from './Ride.module.css';
import type { Doing } from './useDo';

interface RidePadProps {
  ride: Ride;
  /** Faster than a walk: whoever rides looks at the road. */
  moving: boolean;
  onOpen: (doing: Doing) => void;
  onTap: (kind: 'lap' | 'stop' | 'resume', laps?: number) => void;
  onPhoto: (picture: File) => void;
}

/** Five big actions. Entry, Event and End open; Lap and Stop take one tap. */
export function RidePad({ ride, moving, onOpen, onTap, onPhoto }: RidePadProps) {
  const standing = isStanding(ride);
  const laps = lapsOf(ride);
  const first = ride.entries.length === 0;
  return (
    <div className={classes.pad}>
      <button
        type="button"
        className={`${classes.action} ${classes.big}`}
        disabled={moving}
        onClick={() => onOpen('entry')}
      >
        {first ? say('first-entry') : say('entry')}
        <small>{moving ? say('when-standing-or-take-a') : say('volts-trip-gauge')}</small>
      </button>
      <PhotoKey onPhoto={onPhoto} />
      <button
        type="button"
        className={classes.action}
        disabled={first}
        onClick={() => onTap('lap', laps + 1)}
      >
        {say('lap')}
        <small>{say('laps-so-far-key', { laps })}</small>
      </button>
      <button
        type="button"
        className={classes.action}
        disabled={first || moving}
        onClick={() => onTap(standing ? 'resume' : 'stop')}
      >
        {standing ? say('go-on') : say('stop')}
        <small>{standing ? 'standing' : 'rolling'}</small>
      </button>
      <button type="button" className={classes.action} onClick={() => onOpen('event')}>
        {say('event')}
      </button>
      <button
        type="button"
        className={classes.action}
        disabled={first || moving}
        onClick={() => onOpen('end')}
      >
        {say('end')}
      </button>
    </div>
  );
}

interface PhotoKeyProps {
  onPhoto: (picture: File) => void;
}

/** Opens the camera; what it takes is kept, to be read later at the bench. */
function PhotoKey({ onPhoto }: PhotoKeyProps) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <button
        type="button"
        className={`${classes.action} ${classes.beside}`}
        onClick={() => input.current?.click()}
      >
        {say('photo')}
        <small>{say('display')}</small>
      </button>
      <input
        ref={input}
        type="file"
        accept="image/*"
        capture="environment"
        hidden
        aria-label={say('picture-of-the-display')}
        onChange={(event) => {
          const picture = event.currentTarget.files?.[0];
          event.currentTarget.value = '';
          if (picture) onPhoto(picture);
        }}
      />
    </>
  );
}

interface EndedPadProps {
  onResult: () => void;
  /** Volts after a rest, and what was limped on from there. */
  onSettled: () => void;
  onAgain: () => void;
}

/** The ride is ended: its result, or on with it after all. */
export function EndedPad({ onResult, onSettled, onAgain }: EndedPadProps) {
  return (
    <div className={classes.pad}>
      <button
        type="button"
        className={`${classes.action} ${classes.big} ${classes.whole}`}
        onClick={onResult}
      >
        {say('read-the-result')}
      </button>
      <button type="button" className={`${classes.action} ${classes.half}`} onClick={onSettled}>
        {say('after-a-rest')}
        <small>{say('volts-where-you-limped-to')}</small>
      </button>
      <button type="button" className={`${classes.action} ${classes.half}`} onClick={onAgain}>
        {say('ride-on')}
        <small>{say('carry-on-the-ride')}</small>
      </button>
    </div>
  );
}
