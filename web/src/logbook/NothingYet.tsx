import { Button } from '@mantine/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useDemo } from '../account/useDemo';
import { Explained } from '../ui/Explained';
import { Refusal } from '../ui/Refusal';
import { say } from '../words/en/logbook.ftl';
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
      <Door title={say('log-or-import-a-ride')} text={say('one-ride-with-a-full')}>
        <Button component={Link} to="/ride/memory" variant="filled">
          {say('log-a-past-ride')}
        </Button>
        <Button component={Link} to="/ride">
          {say('log-live')}
        </Button>
        <Button onClick={onImport}>{say('import-a-loggers-file-or')}</Button>
      </Door>
      <Door title={say('plan-one')} text={say('choose-the-question-and-see')}>
        <Button component={Link} to="/plan/new">
          {say('plan-a-test')}
        </Button>
        <Button component={Link} to="/forecast">
          {say('will-my-pack-do-a')}
        </Button>
      </Door>
      {demoOffered && (
        <Door title={say('look-round-the-demo')} text={say('a-made-up-island-with')}>
          <Button onClick={() => demo.mutate()} loading={demo.isPending}>
            {say('open-the-demo')}
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
