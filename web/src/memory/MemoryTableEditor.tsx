import { Button, Group, Select } from '@mantine/core';
import { useMutation } from '@tanstack/react-query';
import type { ClipboardEvent } from 'react';
import { api, unwrap } from '../api/client';
import type { Units } from '../api/queries';
import { sayDone } from '../ui/notes';
import { Refusal } from '../ui/Refusal';
import { say } from '../words/en/memory.ftl';
import classes from './Memory.module.css';
import { CHOICES, LEFT_OUT, type MemoryTable, tableOf, unitOfColumn } from './table';

interface MemoryTableEditorProps {
  table: MemoryTable;
  units: Units;
  /** By "row:column name". */
  faults: Record<string, string>;
  onChange: (table: MemoryTable) => void;
}

/** Rows as in a spreadsheet: typed, or pasted out of one; what a column holds is chosen above it. */
export function MemoryTableEditor({ table, units, faults, onChange }: MemoryTableEditorProps) {
  const read = useMutation({
    mutationFn: async (text: string) =>
      unwrap(await api.POST('/api/tests/pasted', { body: { text } })),
    onSuccess: (pasted) => {
      onChange(tableOf(pasted));
      const unnamed = pasted.columns.filter((column) => column.name === null).length;
      const rest =
        pasted.left_out > 0 ? say('more-were-left-out', { left_out: pasted.left_out }) : '';
      sayDone(
        say('rows-are-pasted', {
          count: pasted.rows.length,
          rest,
          unnamed: unnamed > 0 ? say('say-what-the-columns-without') : '',
        }),
      );
    },
  });
  function paste(event: ClipboardEvent) {
    const text = event.clipboardData.getData('text/plain');
    // One cell goes where the cursor stands; a table becomes the table.
    if (!/[\t\n]/.test(text.trim())) return;
    event.preventDefault();
    read.mutate(text.slice(0, 200_000));
  }
  const write = (row: number, column: number, text: string) =>
    onChange({
      ...table,
      rows: table.rows.map((cells, at) =>
        at === row ? cells.map((cell, index) => (index === column ? text : cell)) : cells,
      ),
    });
  const said = Object.entries(faults);
  return (
    <div onPaste={paste}>
      <div className={classes.table}>
        <table>
          <thead>
            <tr>
              {table.columns.map((column, index) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: columns have no name of their own
                <th key={index}>
                  <Select
                    size="xs"
                    aria-label={say('what-column-holds', { index: index + 1 })}
                    data={CHOICES}
                    value={column.name}
                    searchable
                    allowDeselect={false}
                    onChange={(name) =>
                      onChange({
                        ...table,
                        columns: table.columns.map((item, at) =>
                          at === index ? { name: name ?? LEFT_OUT, unit: '' } : item,
                        ),
                      })
                    }
                  />
                  <span className={classes.unit}>{unitOfColumn(column, units) || '\u00a0'}</span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {table.rows.map((cells, row) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: rows are in the order they were ridden
              <tr key={row}>
                {table.columns.map((column, index) => {
                  const fault = faults[`${row}:${column.name}`];
                  return (
                    // biome-ignore lint/suspicious/noArrayIndexKey: as above
                    <td key={index}>
                      <input
                        aria-label={say('row-row-label-of-column', {
                          row: row + 1,
                          label_of_column: labelOfColumn(column.name),
                        })}
                        aria-invalid={fault !== undefined}
                        title={fault}
                        maxLength={300}
                        value={cells[index] ?? ''}
                        onChange={(event) => write(row, index, event.currentTarget.value)}
                      />
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {said.length > 0 && (
        <ul role="alert" className={classes.faults}>
          {said.map(([place, text]) => {
            const [row = '0', name = ''] = place.split(':');
            return (
              <li key={place}>
                {say('row-number-label-of-column', {
                  number: Number(row) + 1,
                  label_of_column: labelOfColumn(name).toLowerCase(),
                  text,
                })}
              </li>
            );
          })}
        </ul>
      )}
      <Refusal error={read.error} />
      <Group mt="xs" gap="xs">
        <Button
          size="xs"
          onClick={() => onChange({ ...table, rows: [...table.rows, table.columns.map(() => '')] })}
          disabled={table.rows.length >= 500}
        >
          {say('add-a-row')}
        </Button>
        <Button
          size="xs"
          onClick={() =>
            onChange({
              columns: [...table.columns, { name: LEFT_OUT, unit: '' }],
              rows: table.rows.map((cells) => [...cells, '']),
            })
          }
          disabled={table.columns.length >= 40}
        >
          {say('add-a-column')}
        </Button>
        <span className={classes.unit}>{say('paste-a-table-out-of')}</span>
      </Group>
    </div>
  );
}

function labelOfColumn(name: string): string {
  return CHOICES.find((choice) => choice.value === name)?.label ?? name;
}
