import type { Plan, Result, Units } from '../api/queries';
import { distanceFigure } from '../format/units';
import { GuessList } from '../plan/Guesses';
import { say } from '../words/en/result.ftl';

interface AgainstPlanProps {
  plan: Plan;
  result: Result;
  units: Units;
}

/** Forecast against fact, and whose guess came nearest. */
export function AgainstPlan({ plan, result, units }: AgainstPlanProps) {
  if (!plan.answer) return <p>{plan.trouble}</p>;
  const expected = plan.answer.forecast.range_to_cutoff;
  const fact = result.range_to_cutoff;
  const forecast = distanceFigure(expected, units);
  const found = fact ? distanceFigure(fact, units) : null;
  const inside = fact != null && fact.value >= expected.low && fact.value <= expected.high;
  return (
    <section aria-label={say('against-the-plan')}>
      <h2>{say('against-the-plan')}</h2>
      <p>
        {say('forecast-range-to-cut-off', {
          forecast: forecast.value,
          unit: forecast.unit,
          span: forecast.span,
          found: found
            ? say('the-ride-shows', {
                found: found.value,
                unit: found.unit,
                inside: inside
                  ? say('within-the-forecasts-band')
                  : say('outside-the-forecasts-band'),
              })
            : say('the-ride-doesnt-show-yet'),
        })}
      </p>
      {plan.guesses.length > 0 && (
        <div style={{ fontSize: '0.87rem' }}>
          <GuessList plan={plan} units={units} />
        </div>
      )}
    </section>
  );
}
