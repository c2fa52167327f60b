import { Table } from '@mantine/core';
import type { Result, Units } from '../api/queries';
import { distance, distanceText, number, temperatureText } from '../format/units';
import { say } from '../words/en/result.ftl';
import { Shown } from '../words/Shown';
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
    <section className={classes.section} aria-label={say('what-to-plan-on')} data-part>
      <h2>{say('what-to-plan-on-and')}</h2>
      {isOutlived(plan.months, startedAt, Date.now()) && (
        <p>
          <Shown
            say={say}
            id="ride-it-again-this-ride"
            values={{ months: plan.months }}
            parts={{ b: <b /> }}
          />
        </p>
      )}
      <p>
        {opens(
          'plan_on',
          say('plan-on-distance-m', { distance_m: distanceText(plan.distance_m, units) }),
        )}{' '}
        {say('when-it-is-to-for', {
          from,
          to,
          months: plan.months,
          cycles:
            plan.cycles != null &&
            say('or-full-charges-whichever-comes', { cycles: number(plan.cycles, 0) }),
          temp_assumed: plan.temp_assumed && say('the-air-temperature-of-this'),
        })}
      </p>
      <div className={classes.entries}>
        <Table aria-label={say('what-to-plan-on-by')}>
          <Table.Thead>
            <Table.Tr>
              <Table.Th className={classes.words}>{say('air-at-about')}</Table.Th>
              {plan.in_weather.map((row) => (
                <Table.Th key={row.temp_c}>{temperatureText(row.temp_c, units)}</Table.Th>
              ))}
            </Table.Tr>
          </Table.Thead>
          <Table.Tbody>
            <Table.Tr>
              <Table.Td className={classes.words}>
                {say('plan-on-distance', { distance: units.distance })}
              </Table.Td>
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
