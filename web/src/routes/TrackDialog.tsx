import { Button, Group, Text } from '@mantine/core';
import type { Route, Units } from '../api/queries';
import { distanceText, height, heightUnit, number } from '../format/units';
import { Dialog } from '../ui/Dialog';
import { heightsOf, pathOf } from './profile';
import { RoutePath } from './RoutePath';
import { RouteProfile } from './RouteProfile';
import { useRemoveRoute } from './useRemoveRoute';

interface TrackDialogProps {
  route: Route;
  units: Units;
  onClose: () => void;
}

/** A track as it was understood: profile, path, legs. */
export function TrackDialog({ route, units, onClose }: TrackDialogProps) {
  const removing = useRemoveRoute(route, onClose);
  const path = pathOf(route);
  return (
    <Dialog onClose={onClose} title={route.name} size="xl">
      <p>
        {distanceText(route.length_m, units)}, {number(height(route.ascent_m, units), 0)}{' '}
        {heightUnit(units)} up and {number(height(route.descent_m, units), 0)} down, in{' '}
        {route.legs.length} legs. Heights are smoothed, and a climb counts from 10 m on.
      </p>
      <RouteProfile heights={heightsOf(route)} units={units} tall={170} />
      {path && <RoutePath path={path} size={300} />}
      {removing.error && (
        <Text role="alert" c="var(--buoy)">
          {removing.error.message}
        </Text>
      )}
      <Group justify="space-between">
        <Button variant="subtle" onClick={removing.tap}>
          Remove
        </Button>
        <Button onClick={onClose}>Close</Button>
      </Group>
    </Dialog>
  );
}
