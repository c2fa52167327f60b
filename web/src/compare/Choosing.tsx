import { Button, Checkbox, Select } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useReducer } from 'react';
import { Link, useNavigate } from 'react-router';
import type { Question, TestRow } from '../api/queries';
import { day } from '../format/units';
import { Page, Trouble, Waiting } from '../ui/Page';
import { say } from '../words/en/compare.ftl';
import { Shown } from '../words/Shown';
import classes from './Compare.module.css';
import { CompareTabs } from './CompareTabs';
import { addressOfChosen, choiceFrom, chosenAfter } from './choice';
import { newestQuery } from './newest';
import { Offers } from './Offers';
import { QUESTIONS } from './questions';
import type { Sides } from './sides';

/** Nothing is chosen yet. */
export function Choosing({ sides }: { sides: Sides }) {
  const navigate = useNavigate();
  const tests = useQuery(newestQuery);
  const [chosen, choose] = useReducer(chosenAfter, sides, choiceFrom);
  const { first, second, question, blind } = chosen;
  if (tests.error) return <Trouble whole error={tests.error} onRetry={() => tests.refetch()} />;
  if (!tests.data) return <Waiting rows={3} height={50} />;
  const data = tests.data.items.map((test) => ({ value: test.id, label: labelOf(test) }));
  return (
    <Page name={say('compare')} title={say('which-uses-less-and-is')}>
      <CompareTabs />
      {data.length < 2 ? (
        <p>
          <Shown
            say={say}
            id="a-comparison-needs-two-tests"
            parts={{ a: <Link to="/ride" />, a2: <Link to="/logbook" /> }}
          />
        </p>
      ) : (
        <form
          className={classes.choose}
          onSubmit={(event) => {
            event.preventDefault();
            const address = addressOfChosen(chosen);
            if (address !== null) navigate(address);
          }}
        >
          <Select
            label={say('what-do-you-want-to')}
            data={QUESTIONS}
            value={question}
            onChange={(value) => choose({ question: value as Question | null })}
            placeholder={say('what-differs-on-purpose')}
            clearable
          />
          {question && <Offers question={question} />}
          <Select
            label={say('one-test')}
            data={data}
            value={first}
            onChange={(first) => choose({ first })}
            searchable
          />
          <Select
            label={say('the-other')}
            data={data.filter((test) => test.value !== first)}
            value={second}
            onChange={(second) => choose({ second })}
            searchable
          />
          <Checkbox
            label={say('hide-which-is-which-until')}
            checked={blind}
            onChange={(event) => choose({ blind: event.currentTarget.checked })}
          />
          <div>
            <Button type="submit" variant="filled" disabled={addressOfChosen(chosen) === null}>
              {say('compare')}
            </Button>
          </div>
          <p>
            <Shown
              say={say}
              id="repeats-show-more-than-single"
              parts={{ a: <Link to="/logbook" /> }}
            />
          </p>
        </form>
      )}
    </Page>
  );
}

const labelOf = (test: TestRow) =>
  [test.title, test.vehicle_name, test.pack_name, day(test.started_at)].filter(Boolean).join(' · ');
