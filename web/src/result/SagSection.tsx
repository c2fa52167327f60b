import type { Schemas } from '../api/client';
import type { Result, Units } from '../api/queries';
import { LeftChart } from '../chart/LeftChart';
import { distanceText, number, speed, speedText, speedUnit } from '../format/units';
import { say } from '../words/en/result.ftl';
import { Shown } from '../words/Shown';
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
    <section className={classes.section} aria-label={say('sag-and-fade')} data-part>
      <h2>{say('sag-and-fade')}</h2>
      {sag != null && sag.energy_left.length > 1 && (
        <div className={classes.pair}>
          <LeftChart
            left={sag.energy_left}
            lines={[
              { name: say('resting'), values: sag.rest_v, dashed: true },
              { name: say('under-load'), values: sag.loaded_v },
            ]}
            unit="V"
            what={say('pack-volts')}
          />
          {sag.speed_mps.some((value) => value !== null) && (
            <LeftChart
              left={sag.energy_left}
              lines={[
                {
                  name: say('speed-held'),
                  values: sag.speed_mps.map((v) => (v === null ? null : speed(v, units))),
                  voice: 'ink',
                },
              ]}
              unit={speedUnit(units)}
              what={say('speed-held-title')}
            />
          )}
        </div>
      )}
      {ohm && (
        <p>
          {opens('resistance_ohm', say('resistance'))}{' '}
          <Shown
            say={say}
            id="ohm-m-low-to-high"
            values={{
              ohm: number(ohm.value * 1000, 0),
              low: number(ohm.low * 1000, 0),
              high: number(ohm.high * 1000, 0),
            }}
            parts={{ b: <b /> }}
          />
        </p>
      )}
      {fade && (
        <p>
          <Shown
            say={say}
            id="the-speed-you-could-hold"
            values={{
              onset_distance_m: distanceText(fade.onset_distance_m, units),
              onset_voltage_v:
                fade.onset_voltage_v != null &&
                say('at-v-under-load', { onset_voltage_v: number(fade.onset_voltage_v, 1) }),
              onset_gauge:
                fade.onset_gauge != null &&
                say('gauge-at-onset-gauge', { onset_gauge: fade.onset_gauge }),
              reference_speed_mps: speedText(fade.reference_speed_mps, units),
            }}
            parts={{ b: <b /> }}
          />
        </p>
      )}
    </section>
  );
}
