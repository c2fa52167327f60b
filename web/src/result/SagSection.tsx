import type { Schemas } from '../api/client';
import type { Result, Units } from '../api/queries';
import { LeftChart } from '../chart/LeftChart';
import { distanceText, number, speed, speedText, speedUnit } from '../format/units';
import classes from './Result.module.css';
import type { Opens } from './useWorking';

interface SagSectionProps {
  sag: Schemas['SagOut'] | null | undefined;
  result: Result;
  units: Units;
  opens: Opens;
}

/** Volts resting and under load over what is left, the speed held, the resistance and where it faded. */
export function SagSection({ sag, result, units, opens }: SagSectionProps) {
  const ohm = result.pack.resistance_ohm;
  const fade = result.fade;
  if (sag == null && ohm == null && fade == null) return null;
  return (
    <section className={classes.section} aria-label="Sag and fade" data-part>
      <h2>Sag and fade</h2>
      {sag != null && sag.energy_left.length > 1 && (
        <div className={classes.pair}>
          <LeftChart
            left={sag.energy_left}
            lines={[
              { name: 'resting', values: sag.rest_v, dashed: true },
              { name: 'under load', values: sag.loaded_v },
            ]}
            unit="V"
            what="Pack volts"
          />
          {sag.speed_mps.some((value) => value !== null) && (
            <LeftChart
              left={sag.energy_left}
              lines={[
                {
                  name: 'speed held',
                  values: sag.speed_mps.map((v) => (v === null ? null : speed(v, units))),
                  voice: 'ink',
                },
              ]}
              unit={speedUnit(units)}
              what="Speed held"
            />
          )}
        </div>
      )}
      {ohm && (
        <p>
          {opens('resistance_ohm', 'Resistance')} <b>{number(ohm.value * 1000, 0)} mΩ</b>,{' '}
          {number(ohm.low * 1000, 0)} to {number(ohm.high * 1000, 0)}.
        </p>
      )}
      {fade && (
        <p>
          The speed you could hold began to fall at{' '}
          <b>{distanceText(fade.onset_distance_m, units)}</b>
          {fade.onset_voltage_v != null && `, at ${number(fade.onset_voltage_v, 1)} V under load`}
          {fade.onset_gauge != null && `, gauge at ${fade.onset_gauge}`}; before that it was{' '}
          {speedText(fade.reference_speed_mps, units)}.
        </p>
      )}
    </section>
  );
}
