import { Table } from '@mantine/core';
import { WideTable } from '../ui/WideTable';
import { say } from '../words/en/chart.ftl';
import classes from './Chart.module.css';
import { cellText, SHOWN_ROWS, shownRows, type Values } from './values';

/** The table behind a drawing. */
export function ValuesTable({ name, values }: { name: string; values: Values }) {
  const rows = shownRows(values);
  const words = values.columns.map((_, column) =>
    values.rows.some((row) => typeof row[column] === 'string'),
  );
  const look = (column: number) => (words[column] ? classes.words : undefined);
  return (
    <div className={classes.values}>
      {rows.length < values.rows.length && (
        <p className={classes.note}>
          {say('of-rows-the-csv-file', { shown_rows: SHOWN_ROWS, count: values.rows.length })}
        </p>
      )}
      <WideTable label={say('values-of-name', { name })}>
        <Table.Thead>
          <Table.Tr>
            {values.columns.map((title, column) => (
              <Table.Th key={title} className={look(column)}>
                {title}
              </Table.Th>
            ))}
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {rows.map((row, at) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: two rows may say the same
            <Table.Tr key={at}>
              {row.map((cell, column) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: a cell is its column's
                <Table.Td key={column} className={look(column)}>
                  {cellText(cell)}
                </Table.Td>
              ))}
            </Table.Tr>
          ))}
        </Table.Tbody>
      </WideTable>
    </div>
  );
}
