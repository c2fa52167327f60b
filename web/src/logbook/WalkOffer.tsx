import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { walkQuery } from '../api/queries';
import { remember, remembered } from '../device/remembered';
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
    <section className={classes.offer} aria-label="A short walk">
      <p>New here? Five cards show what a result says, on “{test.title}”.</p>
      <Button
        size="compact-md"
        variant="filled"
        onClick={() => navigate(`/tests/${test.id}?card=1`)}
      >
        Begin the walk
      </Button>
      <Button
        size="compact-md"
        variant="subtle"
        onClick={() => {
          remember(NAME, true);
          setDeclined(true);
        }}
      >
        No, thanks
      </Button>
    </section>
  );
}
