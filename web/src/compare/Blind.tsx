import { Button } from '@mantine/core';
import type { Comparison, Units } from '../api/queries';
import { Page } from '../ui/Page';
import { say } from '../words/en/compare.ftl';
import classes from './Compare.module.css';
import { CompareTabs } from './CompareTabs';
import { Overlay } from './Overlay';
import { type Guess, isFlipped } from './sides';

interface BlindProps {
  comparison: Comparison;
  first: string[];
  units: Units;
  onGuess: (guess: Guess) => void;
}

/** Both sides without their names: what would one say, not knowing which is which? */
export function Blind({ comparison, first, units, onGuess }: BlindProps) {
  const flipped = isFlipped(comparison.tests.map((test) => test.id));
  const laid = comparison.tests.flatMap((test) => {
    const isX = first.includes(test.id) !== flipped;
    const side = isX ? ('first' as const) : ('second' as const);
    return test.strip ? [{ id: test.id, title: isX ? 'X' : 'Y', side, strip: test.strip }] : [];
  });
  const [x, y]: [Guess, Guess] = flipped ? ['second', 'first'] : ['first', 'second'];
  return (
    <Page name={say('compare')} title={say('which-is-which-is-hidden')}>
      <CompareTabs />
      <div className={classes.page}>
        <p className={classes.said}>
          <span className={classes.key} data-side="first" /> {say('x-and')}{' '}
          <span className={classes.key} data-side="second" /> {say('y-as-ridden-not-yet')}
        </p>
        <Overlay laid={laid} units={units} />
        <div className={classes.guess}>
          <Button onClick={() => onGuess(x)}>{say('x-uses-less')}</Button>
          <Button onClick={() => onGuess('neither')}>{say('about-the-same-choice')}</Button>
          <Button onClick={() => onGuess(y)}>{say('y-uses-less')}</Button>
        </div>
      </div>
    </Page>
  );
}
