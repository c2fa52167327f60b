import { say } from '../words/en/ride.ftl';
import classes from './Pad.module.css';

interface SheetFootProps {
  onBack: () => void;
  /** What is kept by the other key; no such key where nothing is. */
  store?: { label?: string; disabled: boolean; onStore: () => void };
}

/** The foot of what lies over a ride: back, and where something is kept, keep it. */
export function SheetFoot({ onBack, store }: SheetFootProps) {
  return (
    <div className={classes.foot}>
      <button type="button" className={classes.choice} onClick={onBack}>
        {say('back')}
      </button>
      {store && (
        <button
          type="button"
          className={`${classes.choice} ${classes.store}`}
          disabled={store.disabled}
          onClick={store.onStore}
        >
          {store.label ?? say('save')}
        </button>
      )}
    </div>
  );
}
