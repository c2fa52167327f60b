import { useState } from 'react';
import core from '../api/core.json';
import { isListOfWords, remember, remembered } from '../device/remembered';
import type { Ride } from '../roadside/ride';
import classes from './Pad.module.css';
import { SettleTimer } from './SettleTimer';
import { SheetFoot } from './SheetFoot';

const key = (ride: Pick<Ride, 'id'>) => `limpet-prepared-${ride.id}`;

/** What is done of the preparation, on this device. */
export function preparedOf(ride: Pick<Ride, 'id'>): string[] {
  const kept = remembered(key(ride), isListOfWords) ?? [];
  return core.preparation.filter((item) => kept.includes(item));
}

/** What is done before the first metre, ticked off and remembered; a timer for the volts at rest. */
export function PrepareSheet({ ride, onClose }: { ride: Ride; onClose: () => void }) {
  const [done, setDone] = useState(() => preparedOf(ride));
  const turn = (item: string) => {
    const next = done.includes(item) ? done.filter((one) => one !== item) : [...done, item];
    setDone(next);
    remember(key(ride), next);
  };
  return (
    <div className={classes.pad}>
      <div className={classes.more}>
        {core.preparation.map((item) => (
          <label key={item} className={classes.tick}>
            <input type="checkbox" checked={done.includes(item)} onChange={() => turn(item)} />
            {item}
          </label>
        ))}
        <SettleTimer />
      </div>
      <SheetFoot onBack={onClose} />
    </div>
  );
}
