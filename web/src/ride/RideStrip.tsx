import type { Units } from '../api/queries';
import type { Ride } from '../roadside/ride';
import { bandOf } from '../tideline/band';
import { Tideline } from '../tideline/Tideline';
import classes from './Ride.module.css';
import type { Shown } from './shown';

/** The ride on the tideline, out of the same answer as its line. */
export function RideStrip({ ride, shown, units }: { ride: Ride; shown: Shown; units: Units }) {
  const planned = ride.plan?.answer?.forecast ?? null;
  const { strip } = shown;
  // Of readings that contradict each other nothing is drawn: what is asked about them gets the room.
  if (strip === null || (strip.distance_m.length === 0 && planned === null)) return null;
  return (
    <div className={classes.strip}>
      <Tideline
        strip={strip}
        band={planned ? bandOf(planned) : null}
        units={units}
        height={170}
        charWidth={9}
      />
    </div>
  );
}
