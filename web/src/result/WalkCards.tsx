import { Button, Group } from '@mantine/core';
import { useEffect, useRef } from 'react';
import { Link } from 'react-router';
import { useAddress } from '../places/useAddress';
import { Explained } from '../ui/Explained';
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
    title: 'The sentence',
    text: 'The answer to the question you asked. Where the evidence is thin, the sentence says so.',
  },
  {
    at: 'figures',
    title: 'Three figures',
    text: 'What it uses, how far the pack goes, and what to plan on, which is lower to be safe. Tap a name to see its formula with this ride’s numbers.',
  },
  {
    at: 'tideline',
    title: 'The tideline',
    text: 'Energy left over distance. The solid part was ridden, the band is still uncertain, and each mark is one of your entries.',
  },
  {
    at: 'sure',
    title: 'How sure, and why',
    text: 'Every method’s answer on one axis, and what makes the figure uncertain as one bar. Below it: the one thing that would help most next time.',
  },
  {
    at: 'sheet',
    title: 'Everything can be corrected',
    text: 'Change entries and sheet here; the result follows, and each change can be undone.',
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
      aria-label={`Card ${number} of ${CARDS.length}: ${card.title}`}
      tabIndex={-1}
      onKeyDown={(event) => event.key === 'Escape' && go(null)}
    >
      <h2>
        <Explained text={card.title} /> <small>{`${number} of ${CARDS.length}`}</small>
      </h2>
      <p>
        <Explained text={card.text} />
      </p>
      {last && (
        <p>
          Now one of your own: <Link to="/ride/memory">log a past ride</Link>, or{' '}
          <Link to="/logbook">look at the others</Link>.
        </p>
      )}
      <Group justify="space-between" mt="sm">
        <Button size="compact-md" variant="subtle" onClick={() => go(null)}>
          {last ? 'Close' : 'Leave the walk'}
        </Button>
        <Group gap="xs">
          {number > 1 && (
            <Button size="compact-md" onClick={() => go(number - 1)}>
              Back
            </Button>
          )}
          {!last && (
            <Button size="compact-md" variant="filled" onClick={() => go(number + 1)}>
              Next
            </Button>
          )}
        </Group>
      </Group>
    </section>
  );
}
