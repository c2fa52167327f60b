import { Table } from '@mantine/core';
import type { Quantity, Result, Units } from '../api/queries';
import { distanceText, heightText, number, percent } from '../format/units';
import { say } from '../words/en/result.ftl';
import classes from './Result.module.css';
import type { Opens } from './useWorking';

interface PackSectionProps {
  result: Result;
  units: Units;
  opens: Opens;
}

/** What the ride says of the pack, as ridden and at 25 °C; each of several packs; climb and return. */
export function PackSection({ result, units, opens }: PackSectionProps) {
  const { pack, packs, regeneration, climb } = result;
  const rows: Array<{ name: React.ReactNode; as: string; at25: string }> = [];
  if (pack.capacity_ah) {
    rows.push({
      name: opens('capacity_ah', say('capacity')),
      as: spanned(pack.capacity_ah, 'Ah', 1),
      at25: pack.at_25_degc ? spanned(pack.at_25_degc.capacity_ah, 'Ah', 1) : '–',
    });
  }
  if (pack.usable_energy_wh) {
    rows.push({
      name: opens('usable_energy_wh', say('usable-energy')),
      as: spanned(pack.usable_energy_wh, 'Wh', 0),
      at25: pack.at_25_degc?.usable_energy_wh
        ? spanned(pack.at_25_degc.usable_energy_wh, 'Wh', 0)
        : '–',
    });
  }
  if (pack.retained_fraction) {
    const warm = pack.at_25_degc?.retained_fraction;
    rows.push({
      name: opens('retained_fraction', say('of-its-label')),
      as: ofLabel(pack.retained_fraction),
      at25: warm ? ofLabel(warm) : '–',
    });
    const slow = pack.at_25_degc?.retained_at_low_rate;
    if (slow) rows.push({ name: say('of-its-label-at-a'), as: '–', at25: ofLabel(slow) });
  }
  const returned = regeneration != null && regeneration.fraction_of_drawn > 0.002;
  if (rows.length === 0 && packs == null && !returned && climb == null) return null;
  return (
    <section className={classes.section} aria-label={say('pack')} data-part>
      <h2>{say('pack-climb-and-what-came')}</h2>
      {rows.length > 0 && (
        <div className={classes.entries}>
          <Table>
            <Table.Thead>
              <Table.Tr>
                <Table.Th className={classes.words}>{say('the-pack')}</Table.Th>
                <Table.Th className={classes.words}>{say('as-ridden')}</Table.Th>
                <Table.Th className={classes.words}>{say('at-25-c')}</Table.Th>
              </Table.Tr>
            </Table.Thead>
            <Table.Tbody>
              {rows.map((row, index) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: the rows have one order
                <Table.Tr key={index}>
                  <Table.Td className={classes.words}>{row.name}</Table.Td>
                  <Table.Td className={classes.words}>{row.as}</Table.Td>
                  <Table.Td className={classes.words}>{row.at25}</Table.Td>
                </Table.Tr>
              ))}
            </Table.Tbody>
          </Table>
        </div>
      )}
      {packs?.map((part) => (
        <p key={part.pack}>
          {say('pack-carried-it-from-to', {
            pack: part.pack,
            from_m: distanceText(part.from_m, units),
            to_m: distanceText(part.to_m, units),
            energy: part.energy && say('on-energy-wh', { energy: number(part.energy.value, 0) }),
            range_to_cutoff:
              part.range_to_cutoff &&
              say('alone-it-goes-to', {
                low: distanceText(part.range_to_cutoff.low, units),
                high: distanceText(part.range_to_cutoff.high, units),
              }),
          })}
        </p>
      ))}
      {climb && (
        <p>
          {say('it-climbed-and-fell-counted', {
            ascent_m: heightText(climb.ascent_m, units),
            descent_m: heightText(climb.descent_m, units),
            hysteresis_m: heightText(climb.hysteresis_m, units),
          })}
        </p>
      )}
      {returned && regeneration && (
        <p>
          {opens('regeneration', say('regeneration'))}{' '}
          {say('returned-wh-of-what-was', {
            energy_wh: number(regeneration.energy_wh, 0),
            fraction_of_drawn: percent(regeneration.fraction_of_drawn),
          })}
        </p>
      )}
    </section>
  );
}

function spanned(quantity: Quantity, unit: string, digits: number): string {
  const text = (value: number) => number(value, digits);
  return say('value-unit-low-to-high', {
    value: text(quantity.value),
    unit,
    low: text(quantity.low),
    high: text(quantity.high),
  });
}

function ofLabel({ value, low, high }: Quantity): string {
  return say('value-low-to-high', {
    value: percent(value),
    low: percent(low),
    high: percent(high),
  });
}
