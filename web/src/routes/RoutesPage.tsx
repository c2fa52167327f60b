import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { type Route, routesQuery, type Units } from '../api/queries';
import { distanceText, height, heightUnit, number } from '../format/units';
import { useUnits } from '../format/useUnits';
import { KitTabs } from '../kit/KitTabs';
import { Page, Trouble, Waiting } from '../ui/Page';
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
      name="Routes"
      title={<b>Kit</b>}
      actions={
        <>
          <Button onClick={() => setEditing('import')}>Import GPX</Button>
          <Button onClick={() => setEditing('loop')}>Measure a loop</Button>
          <Button variant="filled" onClick={() => setEditing('legs')}>
            Add a route
          </Button>
        </>
      }
    >
      <KitTabs />
      {routes.isPending && <Waiting rows={3} height={60} />}
      {routes.error && <Trouble error={routes.error} onRetry={() => routes.refetch()} />}
      {routes.data?.length === 0 && (
        <p style={{ padding: '20px 0' }}>
          No route yet. Import a GPX file, measure a loop, or give a road’s legs with their lengths
          and climbs.
        </p>
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
              aria-label={`${route.kind === 'track' ? 'Open' : 'Change'} ${route.name}`}
              onClick={() => setEditing(route)}
            >
              {route.kind === 'track' ? 'Open' : 'Change'}
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
  const kind = { loop: 'a measured lap', legs: `${route.legs.length} legs`, track: 'a track' };
  return [
    length,
    kind[route.kind],
    `${number(height(route.ascent_m, units), 0)} ${heightUnit(units)} up`,
    ...route.notices.map((notice) => notice.message),
  ].join(' · ');
}
