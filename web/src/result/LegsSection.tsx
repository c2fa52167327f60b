import { SegmentedControl, Table } from '@mantine/core';
import { memo, useState } from 'react';
import type { Result, Traces, Units } from '../api/queries';
import {
  consumptionText,
  distance,
  distanceText,
  height,
  heightUnit,
  number,
  speedText,
} from '../format/units';
import { KIND_WORDS } from '../format/words';
import { say } from '../words/en/result.ftl';
import { LegProfile } from './LegProfile';
import classes from './Result.module.css';

const BY = {
  entry: say('between-entries'),
  lap: 'laps',
  mode: 'modes',
  speed: say('by-speed'),
  grade: say('by-slope'),
} as const;
type By = keyof typeof BY;

interface LegsSectionProps {
  result: Result;
  /** Of the whole ride, where it was logged. */
  traces: Traces | null;
  units: Units;
}

/** Pieces of the ride: what each took, over its hills and as a bar beside its figures. */
export const LegsSection = memo(function LegsSection({ result, traces, units }: LegsSectionProps) {
  const kinds = (Object.keys(BY) as By[]).filter((by) => result.legs.some((leg) => leg.by === by));
  const [chosen, setChosen] = useState<By | null>(null);
  const by = chosen !== null && kinds.includes(chosen) ? chosen : kinds[0];
  if (by === undefined) return null;
  const legs = result.legs.filter((leg) => leg.by === by);
  const climbed = legs.some((leg) => leg.ascent_m != null);
  const most = Math.max(...legs.map((leg) => leg.wh_per_km.value), 1);
  return (
    <section className={classes.section} aria-label={say('legs')} data-part>
      <div className={classes.sectionHead}>
        <h2>{say('legs')}</h2>
        {kinds.length > 1 ? (
          <SegmentedControl
            className="no-print"
            size="xs"
            aria-label={say('legs-by')}
            data={kinds.map((kind) => ({ value: kind, label: BY[kind] }))}
            value={by}
            onChange={(value) => setChosen(value as By)}
          />
        ) : (
          <span className={classes.note}>{BY[by]}</span>
        )}
      </div>
      <LegProfile legs={legs} traces={traces} units={units} />
      <div className={classes.entries}>
        <Table>
          <Table.Thead>
            <Table.Tr>
              <Table.Th className={classes.words}>{say('leg')}</Table.Th>
              <Table.Th>{units.distance}</Table.Th>
              <Table.Th>Wh</Table.Th>
              <Table.Th className={classes.words}>{say('consumption')}</Table.Th>
              <Table.Th>{say('speed')}</Table.Th>
              {climbed && (
                <Table.Th>{say('climb-height-unit', { height_unit: heightUnit(units) })}</Table.Th>
              )}
            </Table.Tr>
          </Table.Thead>
          <Table.Tbody>
            {legs.map((leg) => (
              <Table.Tr key={`${leg.name}-${leg.from_m}`}>
                <Table.Td className={classes.words}>
                  {KIND_WORDS[leg.name] ?? leg.name}
                  {leg.from_m != null && leg.to_m != null && by === 'entry' && (
                    <span className={classes.note}>
                      {' '}
                      {say('to-to-m', { to_m: distanceText(leg.to_m, units) })}
                    </span>
                  )}
                </Table.Td>
                <Table.Td>{number(distance(leg.distance_m, units), 2)}</Table.Td>
                <Table.Td>{number(leg.energy.value, 0)}</Table.Td>
                <Table.Td className={classes.words}>
                  <span className={classes.legBar}>
                    <span
                      style={{ width: `${(100 * Math.max(leg.wh_per_km.value, 0)) / most}%` }}
                    />
                  </span>
                  {consumptionText(leg.wh_per_km.value, units)}
                </Table.Td>
                <Table.Td>
                  {leg.mean_speed_mps == null ? '–' : speedText(leg.mean_speed_mps, units)}
                </Table.Td>
                {climbed && (
                  <Table.Td>
                    {leg.ascent_m == null ? '–' : number(height(leg.ascent_m, units), 0)}
                  </Table.Td>
                )}
              </Table.Tr>
            ))}
          </Table.Tbody>
        </Table>
      </div>
    </section>
  );
});
