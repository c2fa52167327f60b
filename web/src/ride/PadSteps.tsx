import type { Units } from '../api/queries';
import { say } from '../words/en/ride.ftl';
import classes from './Pad.module.css';
import type { PadAct, PadState } from './pad';
import { shownStep } from './padWords';
import { fieldNamed } from './steps';

interface PadStepsProps {
  state: PadState;
  units: Units;
  /** What a field is taken for. */
  taken: (name: string) => string;
  onAct: (act: PadAct) => void;
}

/** What is asked for, each with what you entered; any can be gone to. */
export function PadSteps({ state, units, taken, onAct }: PadStepsProps) {
  return (
    <nav className={classes.steps} aria-label={say('what-to-read')}>
      {state.steps.map((step, index) => (
        <button
          key={step}
          type="button"
          className={classes.step}
          aria-current={index === state.at && !state.more ? 'step' : undefined}
          onClick={() => onAct({ type: 'go', to: index })}
        >
          {step === 'voltage_rest_v' ? say('volts') : fieldNamed(step).label}
          <small>{shownStep(step, state.typed, units, taken) || '–'}</small>
        </button>
      ))}
      <button
        type="button"
        className={classes.step}
        aria-current={state.more ? 'step' : undefined}
        onClick={() => onAct({ type: 'more' })}
      >
        {say('more')}
        <small>…</small>
      </button>
    </nav>
  );
}
