import { useState } from 'react';
import type { Units } from '../api/queries';
import { numberIn } from '../format/fields';
import { keepAhead } from '../roadside/kept';
import { lapsOf, type Ride } from '../roadside/ride';
import { FieldInput } from '../ui/FieldInput';
import { say } from '../words/en/ride.ftl';
import classes from './Pad.module.css';
import { fieldNamed } from './steps';

interface WaySheetProps {
  ride: Ride;
  /** How far it has come [m]: what is left is counted from here. */
  ridden_m: number;
  units: Units;
}

/** The way that is left, in the rider's own word. */
export function WaySheet({ ride, ridden_m, units }: WaySheetProps) {
  const [typing, setTyping] = useState(false);
  const [length, setLength] = useState('');
  const [climb, setClimb] = useState('');
  const { ahead } = ride;
  const lap = ride.lap_length_m !== null;
  const lengthField = { ...fieldNamed('trip_m'), label: say('distance-to-go'), asks: '' };
  const climbField = {
    ...fieldNamed('ascent_m'),
    label: say('climb-ahead'),
    asks: say('empty-as-usual'),
  };
  const metres = numberIn(lengthField, length, units);
  const up = climb.trim() === '' ? null : numberIn(climbField, climb, units);
  const choose = (chosen: Parameters<typeof keepAhead>[1]) => {
    keepAhead(ride.id, chosen);
    setTyping(false);
  };
  const laps = lapsOf(ride);
  return (
    <fieldset className={classes.wayAhead}>
      <legend>{say('distance-to-go')}</legend>
      {ride.plan && (
        <button
          type="button"
          className={classes.choice}
          aria-pressed={ahead === null}
          onClick={() => choose(null)}
        >
          {say('as-planned')}
        </button>
      )}
      <button
        type="button"
        className={classes.choice}
        aria-pressed={ahead?.way === 'back' || (ahead === null && !ride.plan && !lap)}
        onClick={() => choose({ way: 'back' })}
      >
        {say('back-along-the-same-route')}
      </button>
      {lap && (
        <button
          type="button"
          className={classes.choice}
          aria-pressed={ahead?.way === 'lap' || (ahead === null && !ride.plan)}
          onClick={() => choose({ way: 'lap' })}
        >
          {say('laps-so-far', { laps })}
        </button>
      )}
      <button
        type="button"
        className={classes.choice}
        aria-pressed={ahead?.way === 'given'}
        aria-expanded={typing}
        onClick={() => setTyping(!typing)}
      >
        {say('another-distance')}
      </button>
      {typing && (
        <div className={classes.fields}>
          <FieldInput field={lengthField} units={units} typed={length} onType={setLength} />
          <FieldInput field={climbField} units={units} typed={climb} onType={setClimb} />
          <button
            type="button"
            className={`${classes.choice} ${classes.store}`}
            disabled={metres === null || metres <= 0}
            onClick={() =>
              choose({
                way: 'given',
                from_m: ridden_m,
                until_m: ridden_m + (metres ?? 0),
                ...(up === null ? {} : { climb_m: up }),
              })
            }
          >
            {say('use-this-distance')}
          </button>
        </div>
      )}
    </fieldset>
  );
}
