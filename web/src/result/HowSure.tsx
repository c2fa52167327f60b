import type { Method, Result, Units } from '../api/queries';
import { distance, number, percent, plainFigure } from '../format/units';
import { METHOD_WORDS } from '../format/words';
import { MethodChart } from './MethodChart';

/** The methods side by side on one axis, the one used marked, and what the pack showed. */
export function HowSure({ result, units }: { result: Result; units: Units }) {
  const pack = result.pack;
  return (
    <>
      <div>
        <h2>How sure, and why</h2>
        <MethodChart
          methods={result.energy_methods}
          unit="Wh"
          scale={(value) => value}
          empty="Nothing gives the energy."
        />
        <Explained methods={result.energy_methods} what="energy" />
      </div>
      <div>
        <MethodChart
          methods={result.distance_methods}
          unit={units.distance}
          scale={(value) => distance(value, units)}
          empty="Nothing gives the distance."
        />
        <Explained methods={result.distance_methods} what="distance" />
      </div>
      {pack.capacity_ah && (
        <p>
          As ridden, the pack holds <b>{plainFigure(pack.capacity_ah, 'Ah').value} Ah</b> ±{' '}
          {plainFigure(pack.capacity_ah, 'Ah').plusMinus}
          {pack.retained_fraction &&
            `, at 25 °C ${percent(pack.retained_fraction.value)} of its label`}
          {pack.usable_energy_wh && `; usable ${number(pack.usable_energy_wh.value, 0)} Wh`}.
        </p>
      )}
      {result.regeneration != null && result.regeneration.fraction_of_drawn > 0.002 && (
        <p>
          Regeneration returned {number(result.regeneration.energy_wh, 0)} Wh,{' '}
          {percent(result.regeneration.fraction_of_drawn)} of what was drawn.
        </p>
      )}
    </>
  );
}

function Explained({ methods, what }: { methods: Method[]; what: string }) {
  const used = methods.find((method) => method.used);
  if (used === undefined) return null;
  const others = methods.filter((method) => !method.used);
  const against = others.filter((method) => !method.agrees);
  return (
    <p>
      The {what} is taken from <b>{named(used)}</b>, the least uncertain
      {others.length === 0 && '; nothing checks it'}
      {others.length > 0 && against.length === 0 && '; the rest agrees'}
      {against.length > 0 && (
        <>
          ; <b>{against.map(named).join(' and ')}</b> does not agree
        </>
      )}
      .
    </p>
  );
}

function named(method: Method): string {
  return METHOD_WORDS[method.method] ?? method.method;
}
