import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { offersQuery, type Question } from '../api/queries';
import { percent } from '../format/units';
import { say } from '../words/en/compare.ftl';
import { Shown } from '../words/Shown';
import classes from './Compare.module.css';
import { addressOf } from './sides';

/** Other faces that answer a question better than two sides do. */
const FACES: Partial<Record<Question, { to: string; text: string }>> = {
  pack: { to: '/compare/ageing', text: say('how-one-pack-has-aged') },
  temperature: { to: '/compare/seasons', text: say('how-much-cold-costs-over') },
};

/** The tests that can tell what one wants to know, or the ride that is missing. */
export function Offers({ question }: { question: Question }) {
  const offers = useQuery(offersQuery(question));
  const face = FACES[question];
  if (offers.error) return <p role="alert">{offers.error.message}</p>;
  if (!offers.data) return null;
  return (
    <section aria-label={say('tests-that-could-show-it')} className={classes.settle}>
      {face && (
        <p>
          <Link to={face.to}>{face.text}</Link>
        </p>
      )}
      {offers.data.length === 0 && question !== 'repeat' && (
        <p>
          <Shown say={say} id="none-of-your-tests-differ" parts={{ a: <Link to="/plan/new" /> }} />
        </p>
      )}
      {offers.data.length > 0 && (
        <ul>
          {offers.data.map(({ first, second, first_name, second_name, smallest_seen }) => (
            <li key={`${first} ${second}`}>
              <Shown
                say={say}
                id="offer-of-tests"
                values={{
                  first_name,
                  second_name,
                  first_runs: runs(first.length),
                  second_runs: runs(second.length),
                  smallest_seen: percent(smallest_seen),
                }}
                parts={{ a: <Link to={addressOf({ first, second }, question)} /> }}
              />
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

const runs = (count: number) => say('count-rides', { count });
