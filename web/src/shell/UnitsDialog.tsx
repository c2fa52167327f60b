import { SegmentedControl, Stack, Text, useMantineColorScheme } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, unwrap } from '../api/client';
import type { Units } from '../api/queries';
import { Dialog } from '../ui/Dialog';
import { say } from '../words/en/shell.ftl';

interface UnitsDialogProps {
  opened: boolean;
  onClose: () => void;
  units: Units;
}

const CHOICES = {
  distance: ['mi', 'km'],
  mass: ['kg', 'lb', 'st'],
  temperature: ['°C', '°F'],
  pressure: ['kPa', 'psi', 'bar'],
} as const;

/** The units figures are read in; what is typed may always carry its own. */
export function UnitsDialog({ opened, onClose, units }: UnitsDialogProps) {
  const queryClient = useQueryClient();
  const { colorScheme, setColorScheme } = useMantineColorScheme();
  const store = useMutation({
    mutationFn: async (body: Units) => unwrap(await api.PUT('/api/units', { body })),
    // Sentences come worded in the account's units, so everything is asked for anew.
    onSuccess: () => queryClient.invalidateQueries(),
  });
  return (
    <Dialog opened={opened} onClose={onClose} title={say('settings')}>
      <Stack gap="sm">
        {(Object.keys(CHOICES) as Array<keyof typeof CHOICES>).map((name) => (
          <div key={name}>
            <Text size="sm" id={`unit-${name}`} tt="capitalize">
              {name}
            </Text>
            <SegmentedControl
              aria-labelledby={`unit-${name}`}
              data={[...CHOICES[name]]}
              value={units[name]}
              onChange={(value) => store.mutate({ ...units, [name]: value })}
            />
          </div>
        ))}
        <div>
          <Text size="sm" id="theme">
            {say('theme')}
          </Text>
          <SegmentedControl
            aria-labelledby="theme"
            data={[
              { value: 'auto', label: say('as-the-device') },
              { value: 'light', label: say('light') },
              { value: 'dark', label: say('dark') },
            ]}
            value={colorScheme}
            onChange={(value) => setColorScheme(value as 'auto' | 'light' | 'dark')}
          />
        </div>
        {store.error && (
          <Text role="alert" c="var(--buoy)">
            {store.error.message}
          </Text>
        )}
      </Stack>
    </Dialog>
  );
}
