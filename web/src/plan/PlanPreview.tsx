import { Anchor, Table } from '@mantine/core';
import type { Preview, Units } from '../api/queries';
import { distanceText, elapsed, percent } from '../format/units';
import { ForecastFigures } from '../trip/ForecastFigures';
import { ForecastHeadline } from '../trip/ForecastHeadline';
import { ForecastStrip } from '../trip/ForecastStrip';
import { ForecastWarnings } from '../trip/ForecastWarnings';
import { RestsOn } from '../trip/RestsOn';
import classes from '../ui/Desk.module.css';
import { Explained } from '../ui/Explained';
import { say } from '../words/en/plan.ftl';
import { calendarFrom } from './calendar';

interface PlanPreviewProps {
  preview: Preview;
  units: Units;
  pending: boolean;
  planId: string | null;
  vehicleId: string;
  packId: string;
}

/** What a plan comes to: the forecast, where to make entries, how long, when it is enough. */
export function PlanPreview(props: PlanPreviewProps) {
  const { preview, units, pending, planId, vehicleId, packId } = props;
  const { forecast, schedule, enough, days } = preview;
  return (
    <>
      <ForecastHeadline forecast={forecast} units={units} pending={pending} />
      <ForecastFigures forecast={forecast} units={units} enoughM={enough.distance_m} />
      <ForecastStrip
        forecast={forecast}
        units={units}
        schedule={schedule}
        enoughM={enough.distance_m}
      />
      <ForecastWarnings warnings={forecast.warnings} more={preview.rules.cautions} />
      <RestsOn forecast={forecast} vehicleId={vehicleId} packId={packId} />
      <h2>{say('the-ride-in-numbers')}</h2>
      <p>
        {say('riding-and-of-rests-charge', {
          riding_s: elapsed(schedule.riding_s),
          resting_s: elapsed(schedule.resting_s),
          charge_s: elapsed(schedule.charge_s),
          laps: schedule.laps == null ? '' : say('laps-laps', { laps: schedule.laps }),
        })}{' '}
        <Explained text={enough.notice.message} />
      </p>
      <Table className={classes.table}>
        <Table.Caption className="visually-hidden">{say('entries-to-make-at-even')}</Table.Caption>
        <Table.Thead>
          <Table.Tr>
            <Table.Th>{say('entry-at')}</Table.Th>
            {schedule.laps != null && <Table.Th>{say('after-lap')}</Table.Th>}
            <Table.Th>{say('probably-left')}</Table.Th>
            <Table.Th>{say('after')}</Table.Th>
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {schedule.entries.map((entry) => (
            <Table.Tr key={entry.distance_m}>
              <Table.Td className={classes.number}>
                {distanceText(entry.distance_m, units)}
              </Table.Td>
              {schedule.laps != null && <Table.Td className={classes.number}>{entry.lap}</Table.Td>}
              <Table.Td className={classes.number}>{percent(entry.energy_left)}</Table.Td>
              <Table.Td className={classes.number}>{elapsed(entry.after_s)}</Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </Table>
      {days.length > 1 && (
        <p style={{ marginTop: 8 }}>
          {say('count-rides-days', { count: days.length, days: days.join(', ') })}{' '}
          {planId ? (
            <Anchor href={calendarFrom(`/api/plans/${planId}/calendar.ics`)}>
              {say('calendar-file-from-tomorrow')}
            </Anchor>
          ) : (
            say('save-the-plan-to-get')
          )}
        </p>
      )}
    </>
  );
}
