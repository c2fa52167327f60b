import { Anchor } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { seriesQuery } from '../api/queries';
import parts from '../ui/Parts.module.css';
import { say } from '../words/en/plan.ftl';
import { Shown } from '../words/Shown';
import { calendarFrom } from './calendar';

/** The series that a plan is one ride of. */
export function SeriesOf({ seriesId }: { seriesId: string }) {
  const series = useQuery(seriesQuery(seriesId));
  if (series.error) return <p role="alert">{series.error.message}</p>;
  return series.data ? <Series series={series.data} /> : null;
}

/** The rides of a series in their order. */
export function Series({ series }: { series: Schemas['SeriesOut'] }) {
  return (
    <section aria-label={say('rides-that-would-settle-it')} className={parts.section}>
      <h2>{say('rides-that-would-settle-it')}</h2>
      <ol>
        {series.rides.map((ride) => (
          <li key={ride.plan_id}>
            {ride.test_id ? (
              <Shown
                say={say}
                id="title-ridden"
                values={{ title: ride.title }}
                parts={{ a: <Link to={`/tests/${ride.test_id}`} /> }}
              />
            ) : (
              <Link to={`/plan/${ride.plan_id}`}>{ride.title}</Link>
            )}
          </li>
        ))}
      </ol>
      <p>
        <Anchor href={calendarFrom(`/api/plans/series/${series.id}/calendar.ics`)}>
          {say('calendar-file-from-tomorrow')}
        </Anchor>
        {' · '}
        <Link to={series.compare}>{say('compare-those-ridden-so-far')}</Link>
      </p>
    </section>
  );
}
