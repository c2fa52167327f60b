import type { Strip, Units } from '../api/queries';
import type { Ride } from '../roadside/ride';
import { bandOf, emptyStrip } from '../tideline/band';
import { Tideline } from '../tideline/Tideline';
import classes from './Ride.module.css';
import { stripHere } from './stripHere';

/** The ride on the tideline: what the server drew, and what was noted here since. */
export function RideStrip({ ride, units }: { ride: Ride; units: Units }) {
  const planned = ride.plan?.answer?.forecast ?? null;
  const drawn: Strip | null = ride.detail?.strip ?? (planned ? emptyStrip(planned) : null);
  const strip = stripHere(ride, drawn);
  if (strip === null) return null;
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
