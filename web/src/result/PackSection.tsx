import { Table } from '@mantine/core';
import type { Quantity, Result, Units } from '../api/queries';
import { distanceText, heightText, number, percent } from '../format/units';
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
      name: opens('capacity_ah', 'Capacity'),
      as: spanned(pack.capacity_ah, 'Ah', 1),
      at25: pack.at_25_degc ? spanned(pack.at_25_degc.capacity_ah, 'Ah', 1) : '–',
    });
  }
  if (pack.usable_energy_wh) {
    rows.push({
      name: opens('usable_energy_wh', 'Usable energy'),
      as: spanned(pack.usable_energy_wh, 'Wh', 0),
      at25: pack.at_25_degc?.usable_energy_wh
        ? spanned(pack.at_25_degc.usable_energy_wh, 'Wh', 0)
        : '–',
    });
  }
  if (pack.retained_fraction) {
    const warm = pack.at_25_degc?.retained_fraction;
    rows.push({
      name: opens('retained_fraction', 'Of its label'),
      as: ofLabel(pack.retained_fraction),
      at25: warm ? ofLabel(warm) : '–',
    });
    const slow = pack.at_25_degc?.retained_at_low_rate;
    if (slow) rows.push({ name: 'Of its label at a low rate', as: '–', at25: ofLabel(slow) });
  }
  const returned = regeneration != null && regeneration.fraction_of_drawn > 0.002;
  if (rows.length === 0 && packs == null && !returned && climb == null) return null;
  return (
    <section className={classes.section} aria-label="Pack" data-part>
      <h2>Pack, climb and what came back</h2>
      {rows.length > 0 && (
        <div className={classes.entries}>
          <Table>
            <Table.Thead>
              <Table.Tr>
                <Table.Th className={classes.words}>the pack</Table.Th>
                <Table.Th className={classes.words}>as ridden</Table.Th>
                <Table.Th className={classes.words}>at 25 °C</Table.Th>
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
          Pack {part.pack} carried it from {distanceText(part.from_m, units)} to{' '}
          {distanceText(part.to_m, units)}
          {part.energy && ` on ${number(part.energy.value, 0)} Wh`}
          {part.range_to_cutoff &&
            `; alone it goes ${distanceText(part.range_to_cutoff.low, units)} to ${distanceText(
              part.range_to_cutoff.high,
              units,
            )}`}
          .
        </p>
      ))}
      {climb && (
        <p>
          It climbed {heightText(climb.ascent_m, units)} and fell{' '}
          {heightText(climb.descent_m, units)}, counted in steps of{' '}
          {heightText(climb.hysteresis_m, units)}.
        </p>
      )}
      {returned && regeneration && (
        <p>
          {opens('regeneration', 'Regeneration')} returned {number(regeneration.energy_wh, 0)} Wh,{' '}
          {percent(regeneration.fraction_of_drawn)} of what was drawn.
        </p>
      )}
    </section>
  );
}

function spanned(quantity: Quantity, unit: string, digits: number): string {
  const text = (value: number) => number(value, digits);
  return `${text(quantity.value)} ${unit}, ${text(quantity.low)} to ${text(quantity.high)}`;
}

function ofLabel({ value, low, high }: Quantity): string {
  return `${percent(value)}, ${percent(low)} to ${percent(high)}`;
}
