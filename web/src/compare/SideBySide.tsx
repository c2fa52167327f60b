import { useSearchParams } from 'react-router';
import type { Question } from '../api/queries';
import { Choosing } from './Choosing';
import { Dealing } from './Dealing';
import { Judged } from './Judged';
import { sidesOf } from './sides';

/** Two sides of tests: which uses less, by how much, and whether it is shown. */
export function SideBySide() {
  const [query] = useSearchParams();
  const chosen = query.get('tests');
  const sides = sidesOf(query);
  if (chosen) return <Dealing ids={chosen.split(',').filter(Boolean)} />;
  if (sides.first.length === 0 || sides.second.length === 0) return <Choosing sides={sides} />;
  return <Judged sides={sides} question={(query.get('question') as Question | null) ?? null} />;
}
