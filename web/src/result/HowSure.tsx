import { memo } from 'react';
import type { Method, Result, Units } from '../api/queries';
import { distance } from '../format/units';
import { METHOD_WORDS } from '../format/words';
import { Explained } from '../ui/Explained';
import { BudgetBar } from './BudgetBar';
import { MethodChart } from './MethodChart';
import classes from './Result.module.css';

/** The methods side by side on one axis, the one used marked; the budget; what would narrow it. */
export const HowSure = memo(function HowSure({ result, units }: { result: Result; units: Units }) {
  return (
    <>
      <section aria-label="How sure" data-part>
        <h2 data-walk="sure">How sure, and why</h2>
        <MethodChart
          methods={result.energy_methods}
          what="energy"
          unit="Wh"
          scale={(value) => value}
          empty="No reading shows the energy."
        />
        <Reasoned methods={result.energy_methods} what="energy" />
      </section>
      <div>
        <MethodChart
          methods={result.distance_methods}
          what="distance"
          unit={units.distance}
          scale={(value) => distance(value, units)}
          empty="No reading shows the distance."
        />
        <Reasoned methods={result.distance_methods} what="distance" />
      </div>
      <Disagreements warnings={result.warnings} />
      <BudgetBar parts={result.budget.range_to_cutoff} what="range" />
      {result.advice.length > 0 && (
        <div>
          <h2>How to get a better answer</h2>
          <ul className={classes.warnings}>
            {result.advice.map((item) => (
              <li key={`${item.code}-${item.figure}`}>
                <Explained text={item.notice.message} />
              </li>
            ))}
          </ul>
        </div>
      )}
    </>
  );
});

const ABOUT_METHODS = [
  'energy_methods_disagree',
  'distance_methods_disagree',
  'set_right',
  'learned',
];

/** Whether a warning is about methods or what earlier tests taught of them: it stands beside these. */
export function isAboutMethods(warning: Result['warnings'][number]): boolean {
  return ABOUT_METHODS.includes(warning.code);
}

/** Each disagreement with what is likely behind it, and what earlier tests said of the instrument. */
function Disagreements({ warnings }: { warnings: Result['warnings'] }) {
  const said = warnings.filter(isAboutMethods);
  if (said.length === 0) return null;
  return (
    <ul className={classes.warnings}>
      {said.map((warning) => (
        <li key={warning.message}>
          <Explained text={warning.message} />
        </li>
      ))}
    </ul>
  );
}

function Reasoned({ methods, what }: { methods: Method[]; what: string }) {
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
