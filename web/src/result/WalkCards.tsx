import { Button, Group } from '@mantine/core';
import { useEffect, useRef } from 'react';
import { Link } from 'react-router';
import { useAddress } from '../places/useAddress';
import { Explained } from '../ui/Explained';
import { say } from '../words/en/result.ftl';
import { Shown } from '../words/Shown';
import classes from './Walk.module.css';

interface Card {
  /** The part of the page that it is about, by its `data-walk`. */
  at: string;
  title: string;
  text: string;
}

const CARDS: readonly Card[] = [
  {
    at: 'sentence',
    title: say('the-sentence'),
    text: say('the-answer-to-the-question'),
  },
  {
    at: 'figures',
    title: say('three-figures'),
    text: say('what-it-uses-how-far'),
  },
  {
    at: 'tideline',
    title: say('the-tideline'),
    text: say('energy-left-over-distance-the'),
  },
  {
    at: 'sure',
    title: say('how-sure-and-why'),
    text: say('every-methods-answer-on-one'),
  },
  {
    at: 'sheet',
    title: say('everything-can-be-corrected'),
    text: say('change-entries-and-sheet-here'),
  },
];

/** Five cards on one result, one after the other; the address says which, none ends the walk. */
export function WalkCards() {
  const [query, alterQuery] = useAddress();
  const number = Number(query.get('card'));
  const card = CARDS[number - 1];
  const box = useRef<HTMLElement>(null);
  const at = card?.at;
  useEffect(() => {
    if (at === undefined) return;
    const part = document.querySelector(`[data-walk="${at}"]`);
    part?.setAttribute('data-walked', '');
    part?.scrollIntoView({ block: 'center' });
    box.current?.focus({ preventScroll: true });
    return () => part?.removeAttribute('data-walked');
  }, [at]);
  if (card === undefined) return null;
  const go = (card: number | null) =>
    alterQuery((next) => {
      if (card === null) next.delete('card');
      else next.set('card', String(card));
    });
  const last = number === CARDS.length;
  return (
    <section
      ref={box}
      className={classes.card}
      aria-label={say('card-number-of-count-title', {
        number,
        count: CARDS.length,
        title: card.title,
      })}
      tabIndex={-1}
      onKeyDown={(event) => event.key === 'Escape' && go(null)}
    >
      <h2>
        <Explained text={card.title} />{' '}
        <small>{say('number-of-count', { number, count: CARDS.length })}</small>
      </h2>
      <p>
        <Explained text={card.text} />
      </p>
      {last && (
        <p>
          <Shown
            say={say}
            id="now-one-of-your-own"
            parts={{ a: <Link to="/ride/memory" />, a2: <Link to="/logbook" /> }}
          />
        </p>
      )}
      <Group justify="space-between" mt="sm">
        <Button size="compact-md" variant="subtle" onClick={() => go(null)}>
          {last ? say('close') : say('leave-the-walk')}
        </Button>
        <Group gap="xs">
          {number > 1 && (
            <Button size="compact-md" onClick={() => go(number - 1)}>
              {say('back')}
            </Button>
          )}
          {!last && (
            <Button size="compact-md" variant="filled" onClick={() => go(number + 1)}>
              {say('next')}
            </Button>
          )}
        </Group>
      </Group>
    </section>
  );
}
