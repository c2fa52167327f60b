import { Fragment } from 'react';
import { Link } from 'react-router';

interface NamedTestsProps {
  titles: readonly string[];
  /** Ids of tests by their titles. */
  keys: Readonly<Record<string, string>>;
}

/** Tests by their names, each a way to its page. */
export function NamedTests({ titles, keys }: NamedTestsProps) {
  return [...new Set(titles)].map((title, index) => (
    <Fragment key={title}>
      {index > 0 && ', '}
      {keys[title] === undefined ? title : <Link to={`/tests/${keys[title]}`}>{title}</Link>}
    </Fragment>
  ));
}
