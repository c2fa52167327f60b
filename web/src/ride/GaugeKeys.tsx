import { say } from '../words/en/ride.ftl';
import type { GaugeKind } from './gauge';
import classes from './Pad.module.css';

interface GaugeKeysProps {
  gauge: GaugeKind;
  value: string;
  onTap: (value: string) => void;
}

/** Bars are tapped as bars and dots as dots: as many as are lit. */
export function GaugeKeys({ gauge, value, onTap }: GaugeKeysProps) {
  const { kind } = gauge;
  const counts = Array.from({ length: gauge.steps + 1 }, (_, index) => gauge.steps - index);
  return (
    <fieldset className={classes.gauge} aria-label={say('how-many-s-are-lit', { kind })}>
      {counts.map((count) => (
        <button
          key={count}
          type="button"
          className={classes.lit}
          aria-pressed={value === String(count)}
          aria-label={say('so-many-lit', { count, kind })}
          onClick={() => onTap(String(count))}
        >
          <b>{count}</b>
          <span aria-hidden="true">
            {counts.slice(0, -1).map((step) => (
              <i
                key={step}
                data-round={gauge.kind === 'dots' || undefined}
                data-lit={gauge.steps - step < count || undefined}
              />
            ))}
          </span>
        </button>
      ))}
    </fieldset>
  );
}
