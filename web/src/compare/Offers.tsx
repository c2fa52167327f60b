import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { offersQuery, type Question } from '../api/queries';
import { percent } from '../format/units';
import classes from './Compare.module.css';
import { addressOf } from './sides';

/** Other faces that answer a question better than two sides do. */
const FACES: Partial<Record<Question, { to: string; text: string }>> = {
  pack: { to: '/compare/ageing', text: 'How one pack has aged over all its tests' },
  temperature: { to: '/compare/seasons', text: 'How much cold costs, over all tests of a vehicle' },
};

/** The tests that can tell what one wants to know, or the ride that is missing. */
export function Offers({ question }: { question: Question }) {
  const offers = useQuery(offersQuery(question));
  const face = FACES[question];
  if (offers.error) return <p role="alert">{offers.error.message}</p>;
  if (!offers.data) return null;
  return (
    <section aria-label="Tests that could show it" className={classes.settle}>
      {face && (
        <p>
          <Link to={face.to}>{face.text}</Link>
        </p>
      )}
      {offers.data.length === 0 && question !== 'repeat' && (
        <p>
          None of your tests differ in this alone. <Link to="/plan/new">Plan the missing ride</Link>
          , ridden like the other.
        </p>
      )}
      {offers.data.length > 0 && (
        <ul>
          {offers.data.map(({ first, second, first_name, second_name, smallest_seen }) => (
            <li key={`${first} ${second}`}>
              <Link to={addressOf({ first, second }, question)}>
                {first_name} against {second_name}
              </Link>
              , {runs(first.length)} against {runs(second.length)}: {percent(smallest_seen)} would
              show
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

const runs = (count: number) => (count === 1 ? 'one ride' : `${count} rides`);
