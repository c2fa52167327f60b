import type { Plan, Result, Units } from '../api/queries';
import { distanceFigure } from '../format/units';
import { GuessList } from '../plan/Guesses';

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
    <section aria-label="Against the plan">
      <h2>Against the plan</h2>
      <p>
        Forecast range to cut-off {forecast.value} {forecast.unit} ({forecast.span});{' '}
        {found
          ? `the ride shows ${found.value} ${found.unit}, ${inside ? 'within the forecast’s band' : 'outside the forecast’s band'}.`
          : 'the ride doesn’t show yet.'}
      </p>
      {plan.guesses.length > 0 && (
        <div style={{ fontSize: '0.87rem' }}>
          <GuessList plan={plan} units={units} />
        </div>
      )}
    </section>
  );
}
