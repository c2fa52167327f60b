import { Table } from '@mantine/core';
import { PLACES } from '../places/places';
import { Dialog } from '../ui/Dialog';
import { say } from '../words/en/shell.ftl';

interface ShortcutListProps {
  opened: boolean;
  onClose: () => void;
}

/** The keys that work everywhere. */
export function ShortcutList({ opened, onClose }: ShortcutListProps) {
  const rows = [
    ...PLACES.map((place) => [place.shortcut, place.label]),
    ['Ctrl K', say('find-a-place-or-a')],
    ['?', say('this-list')],
  ];
  return (
    <Dialog opened={opened} onClose={onClose} title={say('shortcuts')}>
      <Table>
        <Table.Tbody>
          {rows.map(([keys, what]) => (
            <Table.Tr key={keys}>
              <Table.Th scope="row">
                <kbd>{keys}</kbd>
              </Table.Th>
              <Table.Td>{what}</Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </Table>
    </Dialog>
  );
}
