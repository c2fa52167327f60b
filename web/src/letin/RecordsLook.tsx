import { Checkbox, Select } from '@mantine/core';
import type { Units } from '../api/queries';
import { distanceText, number } from '../format/units';
import { WideTable } from '../ui/WideTable';
import { say } from '../words/en/letin.ftl';
import type { Choice, Look } from './choices';
import classes from './LetIn.module.css';

interface RecordsLookProps {
  look: Look;
  choice: Choice;
  units: Units;
  onChoose: (changed: Partial<Choice>) => void;
}

/** What a column of a list of rides may be. */
const FIELDS = [
  { value: '', label: say('field-none') },
  { value: 'date', label: say('field-date') },
  { value: 'clock', label: say('field-clock') },
  { value: 'duration_s', label: say('field-duration') },
  { value: 'title', label: say('field-title') },
  { value: 'note', label: say('field-note') },
  { value: 'distance_m', label: say('field-distance') },
  { value: 'odometer_start_m', label: say('field-odometer-start') },
  { value: 'odometer_m', label: say('field-odometer') },
  { value: 'volts_start_v', label: say('field-volts-start') },
  { value: 'volts_end_v', label: say('field-volts-end') },
  { value: 'gauge_start', label: say('field-gauge-start') },
  { value: 'gauge_end', label: say('field-gauge-end') },
  { value: 'energy_wh', label: say('field-energy') },
  { value: 'charge_ah', label: say('field-charge') },
  { value: 'wh_per_km', label: say('field-consumption') },
  { value: 'wall_wh', label: say('field-wall') },
  { value: 'temp_c', label: say('field-temp') },
  { value: 'wind_mps', label: say('field-wind') },
  { value: 'speed_mps', label: say('field-speed') },
  { value: 'climb_m', label: say('field-climb') },
];
/** Rows that are shown. */
const MOST_SHOWN = 60;

/** A list of old rides, row by row, with what each lacks. */
export function RecordsLook({ look, choice, units, onChoose }: RecordsLookProps) {
  const columns = choice.record_columns ?? look.record_columns ?? [];
  const records = look.records ?? [];
  const good = records.filter((record) => record.faults.length === 0).length;
  const said = say('rides-of', { good, count: records.length });
  return (
    <div>
      <p className={classes.sums} role="status">
        {said}
      </p>
      {[...look.unsure, ...look.faults].length > 0 && (
        <div className={classes.check} role="status">
          <b>{say('please-check')}</b>
          <ul>
            {[...look.unsure, ...look.faults].map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </div>
      )}
      <div className={classes.form}>
        {columns.map((column) => (
          <Select
            key={column.source}
            label={column.source}
            aria-label={say('what-is-it', { source: column.source })}
            data={FIELDS}
            value={column.field}
            allowDeselect={false}
            onChange={(field) =>
              onChoose({
                record_columns: columns.map((each) =>
                  each.source === column.source
                    ? { ...each, field: field ?? '' }
                    : // One column for each.
                      field && each.field === field
                      ? { ...each, field: '' }
                      : each,
                ),
              })
            }
          />
        ))}
      </div>
      <WideTable label={said}>
        <thead className={classes.left}>
          <tr>
            <th>{say('row')}</th>
            <th>{say('day')}</th>
            <th>{say('ride')}</th>
            <th>{say('km')}</th>
            <th>{say('wh')}</th>
            <th>{say('volts-before-after')}</th>
            <th>{say('at-the-wall')}</th>
            <th>{say('what-is-wrong')}</th>
          </tr>
        </thead>
        <tbody className={classes.left}>
          {records.slice(0, MOST_SHOWN).map((record) => (
            <tr key={record.row} className={record.faults.length > 0 ? classes.unsure : undefined}>
              <td>
                <Checkbox
                  label={record.row}
                  aria-label={say('skip-row', { row: record.row })}
                  disabled={record.faults.length > 0}
                  checked={record.faults.length === 0 && !choice.skip.includes(record.row)}
                  onChange={(event) =>
                    onChoose({
                      skip: event.currentTarget.checked
                        ? choice.skip.filter((row) => row !== record.row)
                        : [...choice.skip, record.row],
                    })
                  }
                />
              </td>
              <td>{record.started_at?.slice(0, 10)}</td>
              <td>{record.title}</td>
              <td>{record.distance_m == null ? '' : distanceText(record.distance_m, units)}</td>
              <td>{record.energy_wh == null ? '' : number(record.energy_wh, 0)}</td>
              <td>
                {[record.volts_start_v, record.volts_end_v]
                  .map((volts) => (volts == null ? '–' : number(volts, 1)))
                  .join(', ')}
              </td>
              <td>{record.wall_wh == null ? '' : number(record.wall_wh, 0)}</td>
              <td>{record.faults.join('; ')}</td>
            </tr>
          ))}
        </tbody>
      </WideTable>
      {records.length > MOST_SHOWN && (
        <p className={classes.quiet}>{say('more-rows', { count: records.length - MOST_SHOWN })}</p>
      )}
    </div>
  );
}
