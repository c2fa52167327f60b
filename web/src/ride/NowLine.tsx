import type { TestDetail, Units } from '../api/queries';
import { distanceFigure, elapsed, percent } from '../format/units';
import classes from './Ride.module.css';

/** The one line that matters now. */
export function NowLine({ test, units }: { test: TestDetail; units: Units }) {
  const { headline, under } = wordsFor(test, units);
  return (
    <div className={classes.now} role="status">
      <b>{headline}</b>
      <span>{under}</span>
    </div>
  );
}

function wordsFor(test: TestDetail, units: Units): { headline: string; under: string } {
  if (test.state === 'ended') return { headline: 'Ended', under: 'The result is in the logbook.' };
  if (test.entries.length === 0) {
    return {
      headline: 'Read the volts at rest',
      under: 'Throttle closed, pack settled. Reset the trip meter, then note both.',
    };
  }
  const reserve = test.figures?.range_to_reserve;
  const cutoff = test.figures?.range_to_cutoff;
  if (reserve && cutoff) {
    const figure = distanceFigure(reserve, units);
    const end = distanceFigure(cutoff, units);
    const used = test.result?.energy_used_fraction?.value ?? 0;
    return {
      headline: `Reserve at ${figure.value}\u00a0${figure.unit}`,
      under: `cut-off at ${end.span}\u00a0${end.unit}, from ${percent(used)} used`,
    };
  }
  const last = test.entries.at(-1);
  if (last?.kind === 'stop') {
    return {
      headline: 'Standing',
      under: 'Ten minutes at rest make the next voltage worth most.',
    };
  }
  return {
    headline: test.entries.length === 1 ? 'Ride' : 'Note volts at a stop',
    under: `Begun ${elapsed(Math.max((Date.now() - Date.parse(test.started_at ?? '')) / 1000, 0))} ago. Two resting voltages and the trip meter give watt-hours.`,
  };
}
