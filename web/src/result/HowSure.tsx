import { memo } from 'react';
import type { Method, Result, Units } from '../api/queries';
import { distance } from '../format/units';
import { METHOD_WORDS } from '../format/words';
import { Explained } from '../ui/Explained';
import { say } from '../words/en/result.ftl';
import { Shown } from '../words/Shown';
import { BudgetBar } from './BudgetBar';
import { MethodChart } from './MethodChart';
import classes from './Result.module.css';

/** The methods side by side on one axis, the one used marked; the budget; what would narrow it. */
export const HowSure = memo(function HowSure({ result, units }: { result: Result; units: Units }) {
  return (
    <>
      <section aria-label={say('how-sure')} data-part>
        <h2 data-walk="sure">{say('how-sure-and-why')}</h2>
        <MethodChart
          methods={result.energy_methods}
          what={say('energy')}
          unit="Wh"
          scale={(value) => value}
          empty={say('no-reading-shows-the-energy')}
        />
        <Reasoned methods={result.energy_methods} what={say('energy')} />
      </section>
      <div>
        <MethodChart
          methods={result.distance_methods}
          what={say('distance')}
          unit={units.distance}
          scale={(value) => distance(value, units)}
          empty={say('no-reading-shows-the-distance')}
        />
        <Reasoned methods={result.distance_methods} what={say('distance')} />
      </div>
      <Disagreements warnings={result.warnings} />
      <BudgetBar parts={result.budget.range_to_cutoff} what={say('range')} />
      {result.advice.length > 0 && (
        <div>
          <h2>{say('how-to-get-a-better')}</h2>
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
      <Shown
        say={say}
        id="taken-from-the-least-uncertain"
        values={{
          what,
          named: named(used),
          unchecked: others.length === 0 && say('nothing-checks-it'),
          agreed: others.length > 0 && against.length === 0 && say('the-rest-agrees'),
        }}
        parts={{ b: <b /> }}
      />
      {against.length > 0 && (
        <Shown
          say={say}
          id="method-does-not-agree"
          values={{ against: against.map(named).join(' and ') }}
          parts={{ b: <b /> }}
        />
      )}
      .
    </p>
  );
}

function named(method: Method): string {
  return METHOD_WORDS[method.method] ?? method.method;
}
