import { Button, Group, Text } from '@mantine/core';
import type { Route, Units } from '../api/queries';
import { distanceText, height, heightUnit, number } from '../format/units';
import { Dialog } from '../ui/Dialog';
import { say } from '../words/en/routes.ftl';
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
        {say('up-and-down-in-legs', {
          length_m: distanceText(route.length_m, units),
          ascent_m: number(height(route.ascent_m, units), 0),
          height_unit: heightUnit(units),
          descent_m: number(height(route.descent_m, units), 0),
          count: route.legs.length,
        })}
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
          {say('remove')}
        </Button>
        <Button onClick={onClose}>{say('close')}</Button>
      </Group>
    </Dialog>
  );
}
