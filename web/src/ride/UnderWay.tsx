import { Text } from '@mantine/core';
import { Link } from 'react-router';
import type { Now } from '../api/queries';
import { clock, day } from '../format/units';
import type { RideHere } from '../roadside/kept';
import { say } from '../words/en/ride.ftl';
import classes from './Ride.module.css';

/** Rides that go on: those of the server, and those that only this device knows yet. */
export function UnderWay({ now, here }: { now: Now | undefined; here: RideHere[] }) {
  const told = (now?.under_way ?? []).map(({ id, title, started_at }) => ({
    id,
    title,
    started_at: started_at ?? '',
  }));
  const ended = new Set(here.filter((ride) => ride.ended).map((ride) => ride.id));
  const known = new Set(told.map((ride) => ride.id));
  const all = [
    ...here.filter((ride) => !ride.ended && !known.has(ride.id)),
    ...told.filter((ride) => !ended.has(ride.id)),
  ];
  if (all.length === 0) return null;
  return (
    <div className={classes.under}>
      <Text fw={650}>{say('under-way')}</Text>
      {all.map((ride) => (
        <Link key={ride.id} to={`/ride/${ride.id}`}>
          {say('title-begun-at', {
            title: ride.title,
            day: day(ride.started_at),
            clock: clock(ride.started_at, 0),
          })}
        </Link>
      ))}
    </div>
  );
}
