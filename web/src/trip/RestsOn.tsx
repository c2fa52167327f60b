import type { ReactNode } from 'react';
import { Link } from 'react-router';
import type { Forecast } from '../api/queries';
import { number } from '../format/number';
import { percent } from '../format/units';
import { NamedTests } from '../kit/NamedTests';
import classes from '../ui/Desk.module.css';
import { say } from '../words/en/trip.ftl';

type Own = NonNullable<Forecast['own_tests']>[number];
type What = Own['what'];

interface RestsOnProps {
  forecast: Forecast;
  vehicleId: string;
  packId: string;
}

/** What is known of the vehicle and the pack here, and one tap to where it comes from. */
export function RestsOn({ forecast, vehicleId, packId }: RestsOnProps) {
  const own = (what: What) => forecast.own_tests?.find((item) => item.what === what);
  const input = (name: string) => forecast.inputs.find((item) => item.name === name);
  const road = own('road');
  // A gauge of percents has many steps; a few of them say how it bends.
  const steps = forecast.gauge ?? [];
  const gauge = steps.filter((_, index) => index % Math.ceil(steps.length / 5) === 0);
  const consumption = own('consumption');
  const known = input('known_consumption_wh_per_km');
  const capacity = input('retained_fraction');
  const resistance = input('resistance_ohm');
  return (
    <section aria-label={say('what-it-is-based-on')}>
      <h2>{say('what-it-is-based-on')}</h2>
      <dl className={classes.rests}>
        <Row name={say('consumption-title')} to={`/kit/vehicles/${vehicleId}`} see="history">
          {consumption ? (
            <>
              {say('similar-rides')} {named(consumption)}
            </>
          ) : road ? (
            <>
              {say('road-load-found-from')} {named(road)}
            </>
          ) : known ? (
            say('what-you-entered')
          ) : (
            say('start-values-for-its-kind')
          )}
        </Row>
        {capacity && (
          <Row name={say('capacity')} to={`/kit/packs/${packId}`} see="history">
            {say('of-the-label', { capacity: percent(capacity.value) })}{' '}
            {sourceOf(own('capacity'), capacity.source, say('from-the-kit'))}
          </Row>
        )}
        {resistance && (
          <Row name={say('resistance')} to={`/kit/packs/${packId}`} see="history">
            {number(resistance.value * 1000, 0)} mΩ,{' '}
            {sourceOf(own('resistance'), resistance.source, say('from-the-kit'))}
          </Row>
        )}
        {gauge.length > 0 && (
          <Row name={say('gauge')} to={`/kit/vehicles/${vehicleId}`} see="history">
            {gauge
              .map(
                (step, index) =>
                  say('shown-index-is', {
                    shown: percent(step.shown),
                    index: index === 0 ? say('shown') : '',
                  }) +
                  `${percent(step.energy_left_fraction.value)}${index === 0 ? say('left') : ''}`,
              )
              .join(', ')}
          </Row>
        )}
      </dl>
    </section>
  );
}

interface RowProps {
  name: string;
  to: string;
  see: string;
  children: ReactNode;
}

function Row({ name, to, see, children }: RowProps) {
  return (
    <div>
      <dt>{name}</dt>
      <dd>{children}</dd>
      <dd>
        <Link to={to} aria-label={`${name}: ${see}`}>
          {see}
        </Link>
      </dd>
    </div>
  );
}

function named(own: Own): ReactNode {
  const keys = Object.fromEntries(
    own.tests.flatMap((test) => (test.id ? [[test.title, test.id]] : [])),
  );
  const count = own.tests.length;
  return (
    <>
      {say('of-its-tests', { count })}:{' '}
      <NamedTests titles={own.tests.map((test) => test.title)} keys={keys} />
    </>
  );
}

function sourceOf(own: Own | undefined, source: string, stated: string): ReactNode {
  if (own)
    return (
      <>
        {say('from')} {named(own)}
      </>
    );
  if (source === 'trip') return stated;
  if (source === 'cycles') return say('by-its-cycles');
  return source.startsWith('assumption') ? say('assumed-no-test-shows-it') : source;
}
