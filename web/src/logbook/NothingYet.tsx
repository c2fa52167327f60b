import { Button } from '@mantine/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useDemo } from '../account/useDemo';
import { Explained } from '../ui/Explained';
import { Refusal } from '../ui/Refusal';
import classes from './Logbook.module.css';

interface NothingYetProps {
  demoOffered: boolean;
  onImport: () => void;
}

/** The first use: three doors. */
export function NothingYet({ demoOffered, onImport }: NothingYetProps) {
  const demo = useDemo();
  return (
    <div className={classes.doors}>
      <Door
        title="Log or import a ride"
        text="One ride with a full pack and a few notes on the way: resting volts before and after, and the trip meter. That is enough for watt-hours per mile."
      >
        <Button component={Link} to="/ride/memory" variant="filled">
          Log a past ride
        </Button>
        <Button component={Link} to="/ride">
          Log live
        </Button>
        <Button onClick={onImport}>Import a logger’s file or a bundle</Button>
      </Door>
      <Door
        title="Plan one"
        text="Choose the question, and see before you leave where the ride will end, where to turn and what to note."
      >
        <Button component={Link} to="/plan/new">
          Plan a test
        </Button>
        <Button component={Link} to="/forecast">
          Will my pack do a trip?
        </Button>
      </Door>
      {demoOffered && (
        <Door
          title="Look round the demo"
          text="A made-up island with its rides, and five cards that show what a result says. You are signed out of your account until you sign in again."
        >
          <Button onClick={() => demo.mutate()} loading={demo.isPending}>
            Open the demo
          </Button>
          <Refusal error={demo.error} />
        </Door>
      )}
    </div>
  );
}

function Door({ title, text, children }: { title: string; text: string; children: ReactNode }) {
  return (
    <section className={classes.door} aria-label={title}>
      <h2>{title}</h2>
      <p>
        <Explained text={text} />
      </p>
      {children}
    </section>
  );
}
