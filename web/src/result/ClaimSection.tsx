import type { Result, Units } from '../api/queries';
import { chance, distanceText } from '../format/units';
import classes from './Result.module.css';
import type { Opens } from './useWorking';

interface ClaimSectionProps {
  result: Result;
  units: Units;
  opens: Opens;
  onSay: () => void;
}

const VERDICT = {
  held: 'It holds up',
  missed: 'It doesn’t hold up',
  cannot_tell: 'Can’t tell yet',
} as const;

const DIFFERS = {
  faster: 'faster',
  slower: 'slower',
  heavier: 'more heavily loaded',
  lighter: 'more lightly loaded',
  cold: 'cold',
  pedalled: 'partly pedalled',
} as const;

/** The maker's figure against this ride, and what was different; nothing claimed is an offer to say it. */
export function ClaimSection({ result, units, opens, onSay }: ClaimSectionProps) {
  const { claim } = result;
  return (
    <section className={classes.section} aria-label="The maker’s figure" data-part>
      <div className={classes.sectionHead}>
        <h2>The maker’s figure</h2>
        <button type="button" className={classes.link} onClick={onSay}>
          {claim ? 'Change' : 'Add the maker’s figure'}
        </button>
      </div>
      {claim ? (
        <p>
          {opens('claim', VERDICT[claim.verdict])}
          {claim.probability_held != null && ` (${chance(claim.probability_held)} likely)`}:{' '}
          {distanceText(claim.claimed_m, units)} claimed,{' '}
          {distanceText(claim.distance_m.low, units)} to{' '}
          {distanceText(claim.distance_m.high, units)} here
          {claim.differs.length > 0 &&
            `; this ride was ${claim.differs.map((word) => DIFFERS[word]).join(' and ')}`}
          {claim.differs.length > 0 &&
            claim.as_claimed_m &&
            `; adjusted to the claim’s conditions it is ${distanceText(claim.as_claimed_m.low, units)} to ${distanceText(claim.as_claimed_m.high, units)}`}
          .
        </p>
      ) : (
        <p className={classes.note}>No maker’s figure yet.</p>
      )}
    </section>
  );
}
