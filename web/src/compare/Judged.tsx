import { Button, Select } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { comparisonQuery, type Question } from '../api/queries';
import { useUnits } from '../format/useUnits';
import { Notices } from '../ui/Notices';
import { Page, Trouble, Waiting } from '../ui/Page';
import { Strong } from '../ui/Strong';
import { Blind } from './Blind';
import classes from './Compare.module.css';
import { CompareTabs } from './CompareTabs';
import { Drawn } from './Drawn';
import { Kept } from './Kept';
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
  if (found.error) return <Trouble error={found.error} onRetry={() => found.refetch()} />;
  if (!found.data) return <Waiting rows={5} height={60} />;
  const comparison = found.data;
  if (query.has('blind') && guess === null && comparison.quantity) {
    return <Blind comparison={comparison} first={sides.first} units={units} onGuess={setGuess} />;
  }
  const [sentence, ...more] = comparison.reasons;
  const go = (next: Sides, asked: Question | null) => navigate(addressOf(next, asked));
  return (
    <Page
      name="Compare"
      title={sentence ? <Strong text={sentence.message} /> : 'Side by side.'}
      actions={
        <Button component={Link} to="/compare">
          Other tests
        </Button>
      }
    >
      <CompareTabs />
      <div className={classes.page}>
        <div className={classes.said}>
          {guess && <p>{guessText(guess, comparison.verdict)}</p>}
          <Notices notices={more} />
          {comparison.relative_difference && (
            <p>
              B compared with A, at A’s conditions: {shareText(comparison)}. {judgedText(comparison)}.
            </p>
          )}
          <SettleIt key={`${sides.first} ${sides.second}`} comparison={comparison} sides={sides} />
        </div>
        <Select
          label="What are you testing?"
          data={QUESTIONS}
          value={comparison.question}
          onChange={(value) => go(sides, value as Question)}
          allowDeselect={false}
          maw={340}
          mt="md"
        />
        <Kept comparison={comparison} sides={sides} onMove={(next) => go(next, question)} />
        {comparison.quantity && <Drawn comparison={comparison} sides={sides} units={units} />}
        {comparison.warnings.length > 0 && (
          <section aria-label="Caveats" className={classes.said}>
            <h2>Caveats</h2>
            <Notices notices={comparison.warnings} />
          </section>
        )}
      </div>
    </Page>
  );
}
