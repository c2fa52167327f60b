import type { Comparison, Units } from '../api/queries';
import { Fold } from '../ui/Fold';
import { say } from '../words/en/compare.ftl';
import { Along } from './Along';
import { Corrections } from './Corrections';
import { Dots } from './Dots';
import { InTerms } from './InTerms';
import { Pairs } from './Pairs';
import { RunTable } from './RunTable';
import { Steps } from './Steps';
import { atConditions } from './sides';

interface DrawnProps {
  comparison: Comparison;
  units: Units;
}

/** Conditions, rides, what it means, and both at the same places: each behind its heading. */
export function Drawn({ comparison, units }: DrawnProps) {
  return (
    <>
      {comparison.terms && (
        <InTerms terms={comparison.terms} units={units} at={atConditions(comparison.question)} />
      )}
      <Fold title={say('what-explains-the-difference')}>
        <Steps comparison={comparison} units={units} />
        <Corrections comparison={comparison} units={units} />
      </Fold>
      <Fold title={say('every-ride')}>
        <Dots comparison={comparison} units={units} />
        <RunTable comparison={comparison} units={units} />
      </Fold>
      {comparison.along && <Along along={comparison.along} units={units} />}
      <Pairs comparison={comparison} units={units} />
    </>
  );
}
