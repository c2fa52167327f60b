import { Button, Group, Modal, Text } from '@mantine/core';
import { say } from '../words/en/account.ftl';

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
  title = say('sign-out'),
  act = say('sign-out-act'),
  stay = say('stay-signed-in'),
  unsent,
  online,
  onLeave,
  onClose,
}: SignOutDialogProps) {
  return (
    <Modal opened onClose={onClose} title={title}>
      {unsent > 0 && <Text pb="sm">{say('not-been-sent-yet-keep', { unsent })}</Text>}
      {!online && <Text pb="sm">{say('youre-offline-you-cant-sign')}</Text>}
      <Group justify="flex-end">
        <Button variant="filled" onClick={onClose}>
          {stay}
        </Button>
        {unsent > 0 && (
          <Button color="red" disabled={!online} onClick={() => onLeave(false)}>
            {say('throw-them-away', { unsent })}
          </Button>
        )}
        <Button disabled={!online} onClick={() => onLeave(true)}>
          {unsent > 0 ? say('keep-them', { unsent }) : act}
        </Button>
      </Group>
    </Modal>
  );
}
