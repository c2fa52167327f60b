import { Link } from 'react-router';
import type { TestRow } from '../api/queries';
import { useUnits } from '../format/useUnits';
import { LogbookRow } from '../row/LogbookRow';
import parts from '../ui/Parts.module.css';
import { say } from '../words/en/kit.ftl';

interface LifeTestsProps {
  tests: TestRow[];
  count: number;
  /** Where the logbook shows all of them. */
  all: string;
}

/** The newest tests of a piece of kit, as strips on one scale. */
export function LifeTests({ tests, count, all }: LifeTestsProps) {
  const units = useUnits();
  const reach = Math.max(...tests.map((test) => reachOf(test)), 1);
  return (
    <section className={parts.section} aria-label={say('its-tests')}>
      <div className={parts.head}>
        <h2>{count === 1 ? say('its-one-test') : say('its-count-tests', { count })}</h2>
        {count > 0 && <Link to={all}>{say('in-the-logbook')}</Link>}
      </div>
      {count === 0 && <p>{say('none-yet-what-you-ride')}</p>}
      {count > tests.length && (
        <p className={parts.note}>{say('the-newest-are-shown', { count: tests.length })}</p>
      )}
      <ul style={{ listStyle: 'none', padding: 0, margin: 0 }}>
        {tests.map((test) => (
          <li key={test.id}>
            <LogbookRow test={test} lengthM={reach} units={units} />
          </li>
        ))}
      </ul>
    </section>
  );
}

/** How far a row's tideline reaches, its band not further than a third beyond its end. */
function reachOf(test: TestRow): number {
  const [, value = 0, high = 0] = test.strip?.cutoff_m ?? [];
  return Math.max(test.strip?.ridden_m ?? 0, Math.min(high, 1.35 * value));
}
