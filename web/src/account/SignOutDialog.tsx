import { Button, Group, Modal, Text } from '@mantine/core';

interface SignOutDialogProps {
  title?: string;
  /** The word on the key that goes on. */
  act?: string;
  stay?: string;
  /** What waits on this device to be sent. */
  unsent: number;
  online: boolean;
  /** Whether what waits is kept, locked, for whoever noted it. */
  onLeave: (keep: boolean) => void;
  onClose: () => void;
}

/** Asked where leaving would lose something, or cannot be undone here without a signal. */
export function SignOutDialog({
  title = 'Sign out?',
  act = 'Sign out',
  stay = 'Stay signed in',
  unsent,
  online,
  onLeave,
  onClose,
}: SignOutDialogProps) {
  const entries = unsent === 1 ? '1 thing you noted has' : `${unsent} things you noted have`;
  const them = unsent === 1 ? 'it' : 'them';
  return (
    <Modal opened onClose={onClose} title={title}>
      {unsent > 0 && (
        <Text pb="sm">
          {entries} not been sent yet. Keep {them}, and {unsent === 1 ? 'it stays' : 'they stay'} on
          this device, locked, until you sign in here again. Everything else of yours goes from it.
        </Text>
      )}
      {!online && (
        <Text pb="sm">
          You’re offline: you can’t sign out, or back in, until there is a signal again.
        </Text>
      )}
      <Group justify="flex-end">
        <Button variant="filled" onClick={onClose}>
          {stay}
        </Button>
        {unsent > 0 && (
          <Button color="red" disabled={!online} onClick={() => onLeave(false)}>
            Throw {them} away
          </Button>
        )}
        <Button disabled={!online} onClick={() => onLeave(true)}>
          {unsent > 0 ? `Keep ${them}` : act}
        </Button>
      </Group>
    </Modal>
  );
}
