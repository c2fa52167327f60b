import type { Units } from '../api/queries';
import { distanceText, number, speedText } from '../format/units';
import { say } from '../words/en/practice.ftl';
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
    <section aria-label={say('what-name-shows', { name })}>
      <dl className={classes.display}>
        <div>
          <dt>{say('volts')}</dt>
          <dd>
            {number(shown.volts, 1)} <small>V</small>
          </dd>
        </div>
        <div>
          <dt>{say('trip')}</dt>
          <dd>{distanceText(shown.trip_m, units)}</dd>
        </div>
        <div>
          <dt>{speedText(shown.speed_mps, units)}</dt>
          <dd>
            <span
              className={classes.bars}
              role="img"
              aria-label={say('bars-of-bars', { lit: shown.bars, all: bars })}
            >
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
