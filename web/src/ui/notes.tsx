import { Button, Group, Text } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { say } from '../words/en/ui.ftl';

/** Long enough to read and to reach; a note with a way back stays longer. */
const READ_MS = 4000;
const REACH_MS = 12_000;

/** Says that something was done. */
export function sayDone(message: string) {
  notifications.show({ message, autoClose: READ_MS });
}

/** Says that something could not be done. */
export function sayTrouble(message: string) {
  notifications.show({ message, color: 'red', autoClose: REACH_MS, role: 'alert' });
}

/** Says that something was removed, with the way back. */
export function sayRemoved(what: string, undo: () => Promise<unknown>) {
  const id = notifications.show({
    autoClose: REACH_MS,
    message: (
      <Group justify="space-between" wrap="nowrap">
        <Text size="sm">{say('what-is-removed', { what })}</Text>
        <Button
          size="compact-sm"
          onClick={() => {
            notifications.hide(id);
            undo().then(
              () => sayDone(say('what-is-back', { what })),
              (error: unknown) =>
                sayTrouble(error instanceof Error ? error.message : String(error)),
            );
          }}
        >
          {say('undo')}
        </Button>
      </Group>
    ),
  });
}
