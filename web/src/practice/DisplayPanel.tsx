import type { Units } from '../api/queries';
import { distanceText, number, speedText } from '../format/units';
import classes from './Practice.module.css';
import type { Display } from './play';

interface DisplayPanelProps {
  name: string;
  shown: Display;
  bars: number;
  units: Units;
}

/** The display of the made-up vehicle: it tells what such displays tell, and as badly. */
export function DisplayPanel({ name, shown, bars, units }: DisplayPanelProps) {
  return (
    <section aria-label={`What ${name} shows`}>
      <dl className={classes.display}>
        <div>
          <dt>volts</dt>
          <dd>
            {number(shown.volts, 1)} <small>V</small>
          </dd>
        </div>
        <div>
          <dt>trip</dt>
          <dd>{distanceText(shown.trip_m, units)}</dd>
        </div>
        <div>
          <dt>{speedText(shown.speed_mps, units)}</dt>
          <dd>
            <span className={classes.bars} role="img" aria-label={`${shown.bars} of ${bars} bars`}>
              {Array.from({ length: bars }, (_, bar) => bar + 1).map((bar) => (
                <i key={bar} data-on={bar <= shown.bars || undefined} />
              ))}
            </span>
          </dd>
        </div>
      </dl>
    </section>
  );
}
