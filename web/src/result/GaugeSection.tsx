import { Table } from '@mantine/core';
import { memo } from 'react';
import type { Result, Units } from '../api/queries';
import { GaugeSteps } from '../chart/GaugeSteps';
import { distance, distanceText, number, percent } from '../format/units';
import { say } from '../words/en/result.ftl';
import classes from './Result.module.css';

/** What the gauge showed and what was left: as steps, as habits, and against the displayed range. */
export const GaugeSection = memo(function GaugeSection({
  result,
  units,
}: {
  result: Result;
  units: Units;
}) {
  const steps = result.gauge_truth ?? [];
  const pooled = result.gauge_pooled ?? [];
  const shown = result.shown_range ?? [];
  // What other tests taught of a gauge that nobody read here stands on its vehicle's page.
  if (steps.length === 0 && shown.length === 0) return null;
  const over = new Set(pooled.flatMap((step) => step.tests)).size;
  return (
    <section className={classes.section} aria-label={say('gauge-check')} data-part>
      <h2>{say('what-the-gauge-really-meant')}</h2>
      {steps.length > 0 && <GaugeSteps steps={steps} pooled={pooled} units={units} />}
      {over > 1 && <p className={classes.note}>{say('dashed-over-tests-of-this', { over })}</p>}
      <Habits result={result} units={units} />
      {shown.length > 0 && (
        <div className={classes.entries}>
          <Table>
            <Table.Thead>
              <Table.Tr>
                <Table.Th>{say('at-distance', { distance: units.distance })}</Table.Th>
                <Table.Th>{say('it-promised')}</Table.Th>
                <Table.Th>{say('came')}</Table.Th>
                <Table.Th>{say('that-is')}</Table.Th>
              </Table.Tr>
            </Table.Thead>
            <Table.Tbody>
              {shown.map((item) => (
                <Table.Tr key={item.at_m}>
                  <Table.Td>{number(distance(item.at_m, units), 1)}</Table.Td>
                  <Table.Td>{distanceText(item.shown_m, units)}</Table.Td>
                  <Table.Td>
                    {say('low-to-high', {
                      low: number(distance(item.came_m.low, units), 1),
                      high: distanceText(item.came_m.high, units),
                    })}
                  </Table.Td>
                  <Table.Td>
                    {say('came-m-of-it', {
                      came_m: item.shown_m > 0 ? percent(item.came_m.value / item.shown_m) : '–',
                    })}
                  </Table.Td>
                </Table.Tr>
              ))}
            </Table.Tbody>
          </Table>
        </div>
      )}
    </section>
  );
});

function Habits({ result, units }: { result: Result; units: Units }) {
  const habits = result.gauge_habits;
  if (habits == null) return null;
  const said = [
    habits.first_step_m == null
      ? null
      : say('the-fullest-step-lasted', { first_step_m: distanceText(habits.first_step_m, units) }),
    habits.last_step_m == null
      ? null
      : say('the-last-one', { last_step_m: distanceText(habits.last_step_m, units) }),
    habits.rebound == null || habits.rebound <= 0
      ? null
      : say('it-rose-by-of-full', { rebound: percent(habits.rebound) }),
    habits.upper_m_per_percent == null
      ? null
      : say('a-percent-was-worth-above', {
          upper_m_per_percent: distanceText(habits.upper_m_per_percent, units),
        }),
    habits.lower_m_per_percent == null
      ? null
      : say('lower-m-per-percent-below', {
          lower_m_per_percent: distanceText(habits.lower_m_per_percent, units),
        }),
  ].filter((text) => text !== null);
  if (said.length === 0) return null;
  const text = said.join('; ');
  return <p>{`${text.charAt(0).toUpperCase()}${text.slice(1)}.`}</p>;
}
