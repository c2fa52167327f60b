import { Button, Group, Modal, Text } from '@mantine/core';

interface SignOutDialogProps {
  /** What waits on this device to be sent. */
  unsent: number;
  online: boolean;
  onSignOut: () => void;
  onClose: () => void;
}

/** Asked where signing out leaves something behind, or cannot be undone here without a signal. */
export function SignOutDialog({ unsent, online, onSignOut, onClose }: SignOutDialogProps) {
  const entries = unsent === 1 ? '1 thing you noted has' : `${unsent} things you noted have`;
  return (
    <Modal opened onClose={onClose} title="Sign out?">
      {unsent > 0 && (
        <Text pb="sm">
          {entries} not been sent yet. It stays on this device under your name, and goes when you
          sign in here again.
        </Text>
      )}
      {!online && (
        <Text pb="sm">
          You’re offline: you can’t sign out, or back in, until there is a signal again.
        </Text>
      )}
      <Group justify="flex-end">
        <Button variant="filled" onClick={onClose}>
          Stay signed in
        </Button>
        <Button disabled={!online} onClick={onSignOut}>
          Sign out
        </Button>
      </Group>
    </Modal>
  );
}
