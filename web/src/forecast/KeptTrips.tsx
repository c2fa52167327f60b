import { Button, Checkbox } from '@mantine/core';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import classes from '../ui/Desk.module.css';
import { say } from '../words/en/forecast.ftl';

export type KeptTrip = Schemas['KeptTripOut'];

/** Trips side by side at most. */
export const MOST_COMPARED = 4;

/** The trips that are kept: each opens at its address, several are compared. */
export function KeptTrips({ trips, open }: { trips: KeptTrip[]; open?: string | undefined }) {
  const [chosen, setChosen] = useState<string[]>(open ? [open] : []);
  return (
    <section aria-label={say('saved-trips')}>
      <h2>{say('saved-trips')}</h2>
      <ul className={classes.rows}>
        {trips.map((trip) => (
          <li key={trip.id}>
            <Link to={`/forecast/${trip.id}`} aria-current={trip.id === open ? 'page' : undefined}>
              {trip.name}
            </Link>
            <Checkbox
              size="xs"
              aria-label={say('compare-trip', { trip: trip.name })}
              checked={chosen.includes(trip.id)}
              disabled={!chosen.includes(trip.id) && chosen.length >= MOST_COMPARED}
              onChange={(event) =>
                setChosen(
                  event.currentTarget.checked
                    ? [...chosen, trip.id]
                    : chosen.filter((id) => id !== trip.id),
                )
              }
            />
          </li>
        ))}
      </ul>
      {chosen.length > 1 ? (
        <Button component={Link} to={`/forecast/compare?trips=${chosen.join(',')}`} mt="xs">
          {say('compare-count', { count: chosen.length })}
        </Button>
      ) : (
        <p className={classes.why}>{say('choose-two-to-four-of')}</p>
      )}
    </section>
  );
}
