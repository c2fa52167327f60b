import { useState } from 'react';
import { say } from '../words/en/ride.ftl';
import { FEWEST_STEPS, type GaugeKind, MOST_STEPS } from './gauge';
import classes from './Pad.module.css';

const KINDS: Array<{ kind: GaugeKind['kind']; label: string }> = [
  { kind: 'bars', label: say('bars') },
  { kind: 'dots', label: say('dots') },
  { kind: 'percent', label: say('percent') },
];

/** Asked once of a vehicle: what does its gauge show, and how many when full? */
export function AskGauge({ onSaid }: { onSaid: (gauge: GaugeKind) => void }) {
  const [kind, setKind] = useState<GaugeKind['kind'] | null>(null);
  const counts = Array.from(
    { length: MOST_STEPS - FEWEST_STEPS + 1 },
    (_, index) => FEWEST_STEPS + index,
  );
  if (kind === null || kind === 'percent') {
    return (
      <fieldset className={classes.ask}>
        <legend>{say('what-does-this-vehicles-gauge')}</legend>
        {KINDS.map((one) => (
          <button
            key={one.kind}
            type="button"
            className={classes.choice}
            onClick={() =>
              one.kind === 'percent' ? onSaid({ kind: 'percent', steps: 100 }) : setKind(one.kind)
            }
          >
            {one.label}
          </button>
        ))}
      </fieldset>
    );
  }
  return (
    <fieldset className={classes.ask}>
      <legend>{say('how-many-when-it-is', { kind })}</legend>
      <div className={classes.counts}>
        {counts.map((steps) => (
          <button
            key={steps}
            type="button"
            className={classes.choice}
            onClick={() => onSaid({ kind, steps })}
          >
            {steps}
          </button>
        ))}
      </div>
    </fieldset>
  );
}
