import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { walkQuery } from '../api/queries';
import { remember, remembered } from '../device/remembered';
import { say } from '../words/en/logbook.ftl';
import classes from './Logbook.module.css';

const NAME = 'limpet-walk-declined';
const isTrue = (value: unknown): value is true => value === true;

/** In the demo: five cards on one result, unless they were declined on this device. */
export function WalkOffer() {
  const navigate = useNavigate();
  const [declined, setDeclined] = useState(() => remembered(NAME, isTrue) === true);
  const { data: test, isPending } = useQuery({ ...walkQuery, enabled: !declined });
  if (declined || test === null) return null;
  // As high as what is coming, so that the list below it does not move.
  if (isPending || test === undefined) return <div className={classes.offer} aria-busy="true" />;
  return (
    <section className={classes.offer} aria-label={say('a-short-walk')}>
      <p>{say('new-here-five-cards-show', { title: test.title })}</p>
      <Button
        size="compact-md"
        variant="filled"
        onClick={() => navigate(`/tests/${test.id}?card=1`)}
      >
        {say('begin-the-walk')}
      </Button>
      <Button
        size="compact-md"
        variant="subtle"
        onClick={() => {
          remember(NAME, true);
          setDeclined(true);
        }}
      >
        {say('no-thanks')}
      </Button>
    </section>
  );
}
