import { Button } from '@mantine/core';
import { Link } from 'react-router';
import type { Comparison } from '../api/queries';
import { day } from '../format/units';
import { say } from '../words/en/compare.ftl';
import classes from './Compare.module.css';
import { moved, type Sides } from './sides';

interface KeptProps {
  comparison: Comparison;
  sides: Sides;
  onMove: (sides: Sides) => void;
}

/** Which tests stand on which side. */
export function Kept({ comparison, sides, onMove }: KeptProps) {
  const rows = new Map(comparison.tests.map((test) => [test.id, test]));
  return (
    <div className={classes.sides}>
      {(['first', 'second'] as const).map((side) => (
        <section key={side} aria-label={side === 'first' ? say('side-a') : say('side-b')}>
          <h2>
            <span className={classes.key} data-side={side} />
            {side === 'first' ? 'A' : 'B'}
          </h2>
          {sides[side].map((id) => {
            const test = rows.get(id);
            if (!test) return null;
            return (
              <div key={id} className={classes.one}>
                <span>
                  <Link to={`/tests/${id}`}>{test.title}</Link>
                  <br />
                  {[test.vehicle_name, test.pack_name, day(test.started_at)]
                    .filter(Boolean)
                    .join(', ')}
                </span>
                {sides[side].length > 1 && (
                  <Button size="xs" variant="subtle" onClick={() => onMove(moved(sides, id))}>
                    {say('to-side', { side: side === 'first' ? 'B' : 'A' })}
                  </Button>
                )}
              </div>
            );
          })}
        </section>
      ))}
    </div>
  );
}
