import { useNavigate } from 'react-router';
import type { EntryKind, TestDetail } from '../api/queries';
import classes from './Ride.module.css';
import type { Noting } from './useNote';

interface RidePadProps {
  test: TestDetail;
  noting: Noting;
  onOpen: (kind: EntryKind) => void;
}

/** Five big actions. Entry, Event and End open a sheet; Lap and Stop take one tap. */
export function RidePad({ test, noting, onOpen }: RidePadProps) {
  const navigate = useNavigate();
  if (test.state === 'ended') {
    return (
      <div className={classes.pad}>
        <button
          type="button"
          className={`${classes.action} ${classes.big}`}
          onClick={() => navigate(`/tests/${test.id}`)}
        >
          Read the result
        </button>
      </div>
    );
  }
  const standing =
    test.entries.filter((entry) => entry.kind === 'stop' || entry.kind === 'resume').at(-1)
      ?.kind === 'stop';
  const lapsSoFar = Math.max(
    0,
    ...test.entries.map((entry) => (entry.laps == null ? 0 : Math.floor(entry.laps))),
  );
  const first = test.entries.length === 0;
  return (
    <div className={classes.pad}>
      <button
        type="button"
        className={`${classes.action} ${classes.big}`}
        onClick={() => onOpen(first ? 'start' : 'checkpoint')}
      >
        {first ? 'First entry' : 'Entry'}
        <small>volts, amp-hours, trip, gauge</small>
      </button>
      <button
        type="button"
        className={classes.action}
        disabled={first || noting.pending}
        onClick={() => noting.tap('lap', lapsSoFar + 1)}
      >
        Lap
        <small>{lapsSoFar === 0 ? 'none yet' : `${lapsSoFar} so far`}</small>
      </button>
      <button
        type="button"
        className={classes.action}
        disabled={first || noting.pending}
        onClick={() => noting.tap(standing ? 'resume' : 'stop')}
      >
        {standing ? 'Go on' : 'Stop'}
        <small>{standing ? 'standing' : 'rolling'}</small>
      </button>
      <button type="button" className={classes.action} onClick={() => onOpen('event')}>
        Event
      </button>
      <button
        type="button"
        className={classes.action}
        disabled={first}
        onClick={() => onOpen('end')}
      >
        End
      </button>
    </div>
  );
}
