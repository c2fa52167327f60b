import type { Result, Units } from '../api/queries';
import { chance, distanceText } from '../format/units';
import { say } from '../words/en/result.ftl';
import classes from './Result.module.css';
import type { Opens } from './useWorking';

interface ClaimSectionProps {
  result: Result;
  units: Units;
  opens: Opens;
  onSay: () => void;
}

const VERDICT = {
  held: say('it-holds-up'),
  missed: say('it-doesnt-hold-up'),
  cannot_tell: say('cant-tell-yet'),
} as const;

const DIFFERS = {
  faster: say('faster'),
  slower: say('slower'),
  heavier: say('more-heavily-loaded'),
  lighter: say('more-lightly-loaded'),
  cold: say('cold'),
  pedalled: say('partly-pedalled'),
} as const;

/** The maker's figure against this ride, and what was different; nothing claimed is an offer to say it. */
export function ClaimSection({ result, units, opens, onSay }: ClaimSectionProps) {
  const { claim } = result;
  return (
    <section className={classes.section} aria-label={say('the-makers-figure')} data-part>
      <div className={classes.sectionHead}>
        <h2>{say('the-makers-figure')}</h2>
        <button type="button" className={classes.link} onClick={onSay}>
          {claim ? say('change') : say('add-the-makers-figure')}
        </button>
      </div>
      {claim ? (
        <p>
          {opens('claim', VERDICT[claim.verdict])}
          {say('claim-answered', {
            verdict:
              claim.probability_held != null &&
              say('probability-held-likely', { probability_held: chance(claim.probability_held) }),
            claimed_m: distanceText(claim.claimed_m, units),
            low: distanceText(claim.distance_m.low, units),
            high: distanceText(claim.distance_m.high, units),
            adjusted:
              claim.differs.length > 0 &&
              say('this-ride-was', {
                differs: claim.differs.map((word) => DIFFERS[word]).join(' and '),
              }),
            differs:
              claim.differs.length > 0 &&
              claim.as_claimed_m &&
              say('adjusted-to-the-claims-conditions', {
                low: distanceText(claim.as_claimed_m.low, units),
                high: distanceText(claim.as_claimed_m.high, units),
              }),
          })}
        </p>
      ) : (
        <p className={classes.note}>{say('no-makers-figure-yet')}</p>
      )}
    </section>
  );
}
