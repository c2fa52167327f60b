import { Button, Group } from '@mantine/core';
import { say } from '../words/en/ui.ftl';

interface DialogFootProps {
  /** What removes the thing; a new one has nothing to remove. */
  remove: { pending: boolean; tap: () => void } | null;
  storing: boolean;
  onClose: () => void;
}

/** Remove on the left; cancel and store on the right. */
export function DialogFoot({ remove, storing, onClose }: DialogFootProps) {
  return (
    <Group justify="space-between">
      {remove ? (
        <Button variant="subtle" onClick={remove.tap} loading={remove.pending}>
          {say('remove')}
        </Button>
      ) : (
        <span />
      )}
      <Group>
        <Button onClick={onClose}>{say('cancel')}</Button>
        <Button type="submit" variant="filled" loading={storing}>
          {say('save')}
        </Button>
      </Group>
    </Group>
  );
}
