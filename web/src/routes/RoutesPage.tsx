import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { type Route, routesQuery, type Units } from '../api/queries';
import { distanceText, height, heightUnit, number } from '../format/units';
import { useUnits } from '../format/useUnits';
import { KitTabs } from '../kit/KitTabs';
import { Page, Trouble, Waiting } from '../ui/Page';
import { say } from '../words/en/routes.ftl';
import { ImportRoute } from './ImportRoute';
import { heightsOf, pathOf } from './profile';
import { RouteDialog } from './RouteDialog';
import { RouteSketch } from './RouteSketch';
import classes from './Routes.module.css';
import { TrackDialog } from './TrackDialog';

type Editing = Route | 'legs' | 'loop' | 'import' | null;

/** The ways that are ridden again: laps, legs, and tracks. */
export function RoutesPage() {
  const routes = useQuery(routesQuery);
  const units = useUnits();
  const [editing, setEditing] = useState<Editing>(null);
  const close = () => setEditing(null);
  return (
    <Page
      name={say('routes')}
      title={<b>{say('kit')}</b>}
      actions={
        <>
          <Button onClick={() => setEditing('import')}>{say('import-gpx')}</Button>
          <Button onClick={() => setEditing('loop')}>{say('measure-a-loop')}</Button>
          <Button variant="filled" onClick={() => setEditing('legs')}>
            {say('add-a-route')}
          </Button>
        </>
      }
    >
      <KitTabs />
      {routes.isPending && <Waiting rows={3} height={60} />}
      {routes.error && <Trouble error={routes.error} onRetry={() => routes.refetch()} />}
      {routes.data?.length === 0 && (
        <p style={{ padding: '20px 0' }}>{say('no-route-yet-import-a')}</p>
      )}
      <ul style={{ listStyle: 'none', padding: 0, margin: 0 }}>
        {routes.data?.map((route) => (
          <li key={route.id} className={classes.item}>
            <span>
              <b>{route.name}</b>
              <br />
              <small style={{ color: 'var(--soft)' }}>{route.note}</small>
            </span>
            <span>{lineOf(route, units)}</span>
            <RouteSketch heights={heightsOf(route)} path={pathOf(route)} units={units} />
            <Button
              aria-label={`${route.kind === 'track' ? say('open') : say('change')} ${route.name}`}
              onClick={() => setEditing(route)}
            >
              {route.kind === 'track' ? say('open') : say('change')}
            </Button>
          </li>
        ))}
      </ul>
      {editing === 'import' && <ImportRoute onClose={close} />}
      {(editing === 'legs' || editing === 'loop') && (
        <RouteDialog kind={editing} route={null} units={units} onClose={close} />
      )}
      {editing !== null &&
        typeof editing === 'object' &&
        (editing.kind === 'track' ? (
          <TrackDialog route={editing} units={units} onClose={close} />
        ) : (
          <RouteDialog kind={editing.kind} route={editing} units={units} onClose={close} />
        ))}
    </Page>
  );
}

function lineOf(route: Route, units: Units): string {
  const std = route.length_std_m;
  const length =
    std == null
      ? distanceText(route.length_m, units)
      : `${number(route.length_m, 0)} ±${number(2 * std, 0)} m`;
  const kind = {
    loop: say('a-measured-lap'),
    legs: say('count-legs', { count: route.legs.length }),
    track: say('a-track'),
  };
  return [
    length,
    kind[route.kind],
    say('ascent-m-height-unit-up', {
      ascent_m: number(height(route.ascent_m, units), 0),
      height_unit: heightUnit(units),
    }),
    ...route.notices.map((notice) => notice.message),
  ].join(' · ');
}
