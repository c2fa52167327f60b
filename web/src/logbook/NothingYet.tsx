import { Button } from '@mantine/core';
import { Link } from 'react-router';
import classes from './Logbook.module.css';

/** The first use: three ways to begin. */
export function NothingYet({ onImport }: { onImport: () => void }) {
  return (
    <div className={classes.empty}>
      <p>
        A test is one ride with a full pack and a few notes on the way: volts at rest before and
        after, and the trip meter. That is enough for watt-hours per mile.
      </p>
      <Button component={Link} to="/ride/memory" variant="filled">
        Log a ride I have ridden
      </Button>
      <Button onClick={onImport}>Import a logger’s file or a bundle</Button>
      <Button component={Link} to="/plan/new">
        Plan one
      </Button>
      <Button component={Link} to="/ride" variant="subtle">
        Log one as I ride
      </Button>
    </div>
  );
}
