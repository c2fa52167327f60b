import { Table } from '@mantine/core';
import type { Result, Units } from '../api/queries';
import { distance, distanceText, number, temperatureText } from '../format/units';
import { isOutlived } from './outlived';
import classes from './Result.module.css';
import type { Opens } from './useWorking';

interface PromiseSectionProps {
  result: Result;
  /** When it was ridden, where that is known. */
  startedAt: string | null | undefined;
  units: Units;
  opens: Opens;
}

/** What to plan on, for which weather and how long, and the same in other weather. */
export function PromiseSection({ result, startedAt, units, opens }: PromiseSectionProps) {
  const plan = result.plan_on;
  if (plan?.temp_c == null || plan.in_weather.length === 0) return null;
  const from = temperatureText(plan.temp_c - plan.within_c, units);
  const to = temperatureText(plan.temp_c + plan.within_c, units);
  return (
    <section className={classes.section} aria-label="What to plan on" data-part>
      <h2>What to plan on, and for how long</h2>
      {isOutlived(plan.months, startedAt, Date.now()) && (
        <p>
          <b>Ride it again:</b> this ride is more than {plan.months} months old, and packs lose
          range as they age.
        </p>
      )}
      <p>
        {opens('plan_on', `Plan on ${distanceText(plan.distance_m, units)}`)} when it is {from} to{' '}
        {to}, for {plan.months} months after this ride
        {plan.cycles != null && ` or ${number(plan.cycles, 0)} full charges, whichever comes first`}
        .{plan.temp_assumed && ' The air temperature of this ride is assumed: nobody noted it.'}
      </p>
      <div className={classes.entries}>
        <Table aria-label="What to plan on by air temperature">
          <Table.Thead>
            <Table.Tr>
              <Table.Th className={classes.words}>Air at about</Table.Th>
              {plan.in_weather.map((row) => (
                <Table.Th key={row.temp_c}>{temperatureText(row.temp_c, units)}</Table.Th>
              ))}
            </Table.Tr>
          </Table.Thead>
          <Table.Tbody>
            <Table.Tr>
              <Table.Td className={classes.words}>Plan on, {units.distance}</Table.Td>
              {plan.in_weather.map((row) => (
                <Table.Td key={row.temp_c}>{number(distance(row.distance_m, units), 1)}</Table.Td>
              ))}
            </Table.Tr>
          </Table.Tbody>
        </Table>
      </div>
    </section>
  );
}
