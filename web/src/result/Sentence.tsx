import type { Figures, TestDetail, Units } from '../api/queries';
import { consumptionFigures, distance, distanceFigure, number } from '../format/units';
import classes from './Result.module.css';

interface SentenceProps {
  test: TestDetail;
  figures: Figures;
  units: Units;
}

/** The answer in one sentence. */
export function Sentence({ test, figures, units }: SentenceProps) {
  const consumption = consumptionFigures(figures, units)?.[0];
  const range = figures.range_to_cutoff ? distanceFigure(figures.range_to_cutoff, units) : null;
  const plan = test.result?.plan_on;
  const per = units.distance === 'mi' ? 'a mile' : 'a kilometre';
  const length = units.distance === 'mi' ? 'miles' : 'kilometres';
  const who = test.rider_name || 'you';
  return (
    <h1 className={classes.sentence}>
      {consumption ? (
        <>
          It used{' '}
          <b>
            {consumption.value} watt-hours {per}
          </b>
          , give or take {consumption.plusMinus}.{' '}
        </>
      ) : (
        <>What is noted does not give watt-hours {per} yet. </>
      )}
      {range && figures.range_measured && (
        <>
          From full, the pack took {who} {range.value} {length} to its end
        </>
      )}
      {range && !figures.range_measured && (
        <>
          Ridden like this, the pack takes {who} {range.value} {length} to cut-off
        </>
      )}
      {range && plan && (
        <>
          ; <b>plan on {number(distance(plan.distance_m, units), 1)}</b>.
        </>
      )}
    </h1>
  );
}
