import { Table } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import type { Units, Vehicle } from '../api/queries';
import { GaugeSteps } from '../chart/GaugeSteps';
import { fieldOf, shownWithUnit } from '../format/fields';
import { limpText } from '../format/limp';
import { number } from '../format/number';
import { consumptionText, distanceText, speed, speedUnit } from '../format/units';
import { useUnits } from '../format/useUnits';
import result from '../result/Result.module.css';
import { Trouble, Waiting } from '../ui/Page';
import parts from '../ui/Parts.module.css';
import { say } from '../words/en/kit.ftl';
import { Drifts } from './Drifts';
import { KitHead, KitLink } from './KitHead';
import { LifeTests } from './LifeTests';
import { type VehicleLife as Life, vehicleLifeQuery } from './lives';
import { NamedTests } from './NamedTests';
import { pooledSteps } from './pooled';
import { RoadFit } from './RoadFit';
import { SpeedCurve } from './SpeedCurve';
import { TaughtTable } from './TaughtTable';

/** A vehicle over its tests: what it takes at a speed, what its instruments and its gauge mean. */
export function VehicleLife({ itemId }: { itemId: string }) {
  const query = useQuery(vehicleLifeQuery(itemId));
  const units = useUnits();
  if (query.error) return <Trouble whole error={query.error} onRetry={() => query.refetch()} />;
  if (query.data === undefined) return <Waiting rows={4} height={90} />;
  const { item, tests, count, keys, life } = query.data;
  return (
    <KitHead
      shelf="vehicles"
      item={item}
      links={
        <>
          <KitLink to={`/forecast?vehicle=${item.id}`}>{say('forecast-with-it')}</KitLink>
          <KitLink to={`/compare/seasons?vehicle=${item.id}`}>{say('how-much-cold-costs')}</KitLink>
        </>
      }
    >
      <LifeTests
        tests={tests}
        count={count}
        all={`/logbook?vehicle=${encodeURIComponent(item.name)}`}
      />
      <Bands life={life} keys={keys} units={units} />
      <TaughtTable vehicle={item} taught={life.taught} keys={keys} units={units} />
      <section className={parts.section} aria-label={say('road-load-from-its-tests')}>
        <h2>{say('road-load-from-its-tests')}</h2>
        <RoadFit vehicle={item} keys={keys} />
      </section>
      {life.gauge.length > 0 && (
        <section className={parts.section} aria-label={say('its-gauge')}>
          <h2>{say('what-its-gauge-meant-all')}</h2>
          <GaugeSteps steps={pooledSteps(life.gauge)} pooled={[]} units={units} />
        </section>
      )}
      <Drifts life={life} />
      <Limits vehicle={item} units={units} />
    </KitHead>
  );
}

interface BandsProps {
  life: Life['life'];
  keys: Record<string, string>;
  units: Units;
}

function Bands({ life, keys, units }: BandsProps) {
  if (life.bands.length === 0) return null;
  const most = Math.max(...life.bands.map((band) => band.wh_per_km.value));
  return (
    <section className={parts.section} aria-label={say('consumption-by-speed')}>
      <h2>{say('consumption-by-speed-held-name')}</h2>
      <SpeedCurve life={life} units={units} />
      <div className={parts.table}>
        <Table>
          <Table.Thead>
            <Table.Tr>
              <Table.Th className={parts.words}>{speedUnit(units)}</Table.Th>
              <Table.Th className={parts.words}>{say('consumption')}</Table.Th>
              <Table.Th>{say('ridden')}</Table.Th>
              <Table.Th className={parts.words}>{say('from')}</Table.Th>
            </Table.Tr>
          </Table.Thead>
          <Table.Tbody>
            {life.bands.map((band) => (
              <Table.Tr key={`${band.from_mps}-${band.to_mps}`}>
                <Table.Td className={parts.words}>
                  {bandText(band.from_mps, band.to_mps, units)}
                </Table.Td>
                <Table.Td className={parts.words}>
                  <span className={result.legBar}>
                    <span
                      style={{ width: `${(100 * Math.max(band.wh_per_km.value, 0)) / most}%` }}
                    />
                  </span>
                  {consumptionText(band.wh_per_km.value, units)} ±{' '}
                  {consumptionText(2 * band.wh_per_km.standard_uncertainty, units)}
                </Table.Td>
                <Table.Td>{distanceText(band.distance_m, units)}</Table.Td>
                <Table.Td className={parts.words}>
                  <NamedTests titles={band.tests} keys={keys} />
                </Table.Td>
              </Table.Tr>
            ))}
          </Table.Tbody>
        </Table>
      </div>
    </section>
  );
}

function bandText(from: number | null, to: number | null, units: Units): string {
  const text = (mps: number) => number(speed(mps, units), 0);
  if (from === null) return to === null ? say('any') : say('under-text', { text: text(to) });
  return to === null
    ? say('over-text', { text: text(from) })
    : say('from-to', { from: text(from), to: text(to) });
}

const LIMITS = ['max_power_w', 'controller_current_limit_a', 'max_speed_mps'] as const;

function Limits({ vehicle, units }: { vehicle: Vehicle; units: Units }) {
  const said = LIMITS.filter((name) => vehicle[name] != null).map((name) => {
    const field = fieldOf('vehicle', name);
    return `${field.label.toLowerCase()} ${shownWithUnit(field, Number(vehicle[name]), units)}`;
  });
  if (vehicle.step_down.length > 0)
    said.push(say('limps-limp-text', { limp_text: limpText(vehicle.step_down, units) }));
  return (
    <section className={parts.section} aria-label={say('limits')}>
      <h2>{say('limits')}</h2>
      <p>{said.length > 0 ? said.join(' · ') : say('no-limits-yet-tap-change')}</p>
    </section>
  );
}
