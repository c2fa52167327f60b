import type { Comparison, Units } from '../api/queries';
import { Along } from './Along';
import { Corrections } from './Corrections';
import { Dots } from './Dots';
import { InTerms } from './InTerms';
import { Overlay } from './Overlay';
import { Pairs } from './Pairs';
import { RunTable } from './RunTable';
import { Steps } from './Steps';
import { atConditions, type Sides } from './sides';

interface DrawnProps {
  comparison: Comparison;
  sides: Sides;
  units: Units;
}

/** Tides, conditions, runs, and both at the same places. */
export function Drawn({ comparison, sides, units }: DrawnProps) {
  const laid = comparison.tests.flatMap((test) => {
    const side = sides.first.includes(test.id) ? ('first' as const) : ('second' as const);
    return test.strip ? [{ id: test.id, title: test.title, side, strip: test.strip }] : [];
  });
  return (
    <>
      {laid.length > 1 && (
        <section aria-label="Tides">
          <h2>Energy left over distance</h2>
          <Overlay laid={laid} units={units} />
        </section>
      )}
      <section aria-label="Conditions">
        <h2>Adjusting for conditions</h2>
        <Steps comparison={comparison} units={units} />
        <Corrections comparison={comparison} units={units} />
      </section>
      <section aria-label="Runs">
        <h2>Every run</h2>
        <Dots comparison={comparison} units={units} />
        <RunTable comparison={comparison} units={units} />
      </section>
      {comparison.terms && (
        <InTerms terms={comparison.terms} units={units} at={atConditions(comparison.question)} />
      )}
      {comparison.along && <Along along={comparison.along} units={units} />}
      <Pairs comparison={comparison} units={units} />
    </>
  );
}
