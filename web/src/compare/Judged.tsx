import { Button, Select } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { comparisonQuery, type Question } from '../api/queries';
import { useUnits } from '../format/useUnits';
import { Fold } from '../ui/Fold';
import { Notices } from '../ui/Notices';
import { Page, Trouble, Waiting } from '../ui/Page';
import { Strong } from '../ui/Strong';
import { say } from '../words/en/compare.ftl';
import { Blind } from './Blind';
import classes from './Compare.module.css';
import { CompareTabs } from './CompareTabs';
import { DifferenceBar } from './DifferenceBar';
import { Drawn } from './Drawn';
import { Kept } from './Kept';
import { Overlay } from './Overlay';
import { QUESTIONS } from './questions';
import { SettleIt } from './SettleIt';
import { addressOf, type Guess, guessText, judgedText, type Sides, shareText } from './sides';

/** Two sides and what is said of them. */
export function Judged({ sides, question }: { sides: Sides; question: Question | null }) {
  const units = useUnits();
  const navigate = useNavigate();
  const [query] = useSearchParams();
  const [guess, setGuess] = useState<Guess | null>(null);
  const found = useQuery(comparisonQuery(sides.first, sides.second, question));
  if (found.error) return <Trouble whole error={found.error} onRetry={() => found.refetch()} />;
  if (!found.data) return <Waiting rows={5} height={60} />;
  const comparison = found.data;
  if (query.has('blind') && guess === null && comparison.quantity) {
    return <Blind comparison={comparison} first={sides.first} units={units} onGuess={setGuess} />;
  }
  const [sentence, ...more] = comparison.reasons;
  const said = [...more, ...comparison.warnings];
  const laid = comparison.tests.flatMap((test) => {
    const side = sides.first.includes(test.id) ? ('first' as const) : ('second' as const);
    return test.strip ? [{ id: test.id, title: test.title, side, strip: test.strip }] : [];
  });
  const go = (next: Sides, asked: Question | null) => navigate(addressOf(next, asked));
  return (
    <Page
      name={say('compare')}
      title={sentence ? <Strong text={sentence.message} /> : say('side-by-side-title')}
      actions={
        <Button component={Link} to="/compare">
          {say('other-tests')}
        </Button>
      }
    >
      <CompareTabs />
      <div className={classes.page}>
        <div className={classes.sight}>
          {guess && <p>{guessText(guess, comparison.verdict)}</p>}
          {laid.length > 1 && <Overlay laid={laid} units={units} />}
          <DifferenceBar comparison={comparison} />
          {comparison.relative_difference && (
            <p>
              {say('b-compared-with-a-at', {
                share_text: shareText(comparison),
                judged_text: judgedText(comparison),
              })}
            </p>
          )}
          <SettleIt key={`${sides.first} ${sides.second}`} comparison={comparison} sides={sides} />
        </div>
        <Kept comparison={comparison} sides={sides} onMove={(next) => go(next, question)} />
        <Select
          label={say('what-are-you-testing')}
          data={QUESTIONS}
          value={comparison.question}
          onChange={(value) => go(sides, value as Question)}
          allowDeselect={false}
          maw={340}
          my="md"
        />
        {said.length > 0 && (
          <Fold title={say('reasons-and-caveats')} open={!comparison.quantity}>
            <div className={classes.said}>
              <Notices notices={said} />
            </div>
          </Fold>
        )}
        {comparison.quantity && <Drawn comparison={comparison} units={units} />}
      </div>
    </Page>
  );
}
