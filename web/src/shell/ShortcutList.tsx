import { Modal, Table } from '@mantine/core';
import { PLACES } from './places';

interface ShortcutListProps {
  opened: boolean;
  onClose: () => void;
}

/** The keys that work everywhere. */
export function ShortcutList({ opened, onClose }: ShortcutListProps) {
  const rows = [
    ...PLACES.map((place) => [place.shortcut, place.label]),
    ['Ctrl K', 'Find a place or a test'],
    ['?', 'This list'],
  ];
  return (
    <Modal opened={opened} onClose={onClose} title="Shortcuts">
      <Table>
        <Table.Tbody>
          {rows.map(([keys, what]) => (
            <Table.Tr key={keys}>
              <Table.Td>
                <kbd>{keys}</kbd>
              </Table.Td>
              <Table.Td>{what}</Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </Table>
    </Modal>
  );
}
