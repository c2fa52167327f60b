import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { type EntryKind, planOfTestQuery, testQuery } from '../api/queries';
import { useUnits } from '../format/useUnits';
import { bandOf, emptyStrip } from '../tideline/band';
import { Tideline } from '../tideline/Tideline';
import { Trouble, Waiting } from '../ui/Page';
import { useTitle } from '../ui/useTitle';
import { EndSheet } from './EndSheet';
import { EntrySheet } from './EntrySheet';
import { NowLine } from './NowLine';
import { PlannedLine } from './PlannedLine';
import classes from './Ride.module.css';
import { RideFigures } from './RideFigures';
import { RidePad } from './RidePad';
import { useNote } from './useNote';
import { useOutbox } from './useOutbox';

/** The roadside: one line that matters, the strip, and five big actions. */
export function RidePage() {
  const { testId = '' } = useParams();
  const test = useQuery(testQuery(testId));
  const units = useUnits();
  const plan = useQuery(planOfTestQuery(testId)).data ?? null;
  const kept = useOutbox(testId);
  const [sheet, setSheet] = useState<EntryKind | null>(null);
  const noting = useNote(testId, test.data?.started_at);
  useTitle(test.data?.title ?? 'Ride');
  if (test.isPending) return <Waiting rows={4} height={80} />;
  // Without signal a fetch fails; what is on the screen stays on it.
  if (test.data === undefined) {
    return (
      <main className={classes.page} style={{ padding: 18 }}>
        <Trouble error={test.error} onRetry={() => test.refetch()} />
      </main>
    );
  }
  const waiting = kept.filter((entry) => !entry.refused).length;
  const refused = kept.filter((entry) => entry.refused);
  const { data } = test;
  const begun = data.strip && data.strip.marks.length > 0 ? data.strip : null;
  const planned = plan?.answer?.forecast ?? null;
  const strip = begun ?? (planned ? emptyStrip(planned) : null);
  return (
    <div className="sunlight">
      <main className={classes.page}>
        <h1 className="visually-hidden">{data.title}</h1>
        <header className={classes.head}>
          <Link to="/ride">‹ {data.title}</Link>
          <span role="status">
            {waiting > 0 ? `no signal · ${waiting} kept here` : 'all stored'}
          </span>
          <Link to={`/tests/${testId}#sheet`}>Sheet</Link>
        </header>
        {sheet === 'end' && (
          <EndSheet test={data} units={units} noting={noting} onClose={() => setSheet(null)} />
        )}
        {sheet !== null && sheet !== 'end' && (
          <EntrySheet
            kind={sheet}
            test={data}
            units={units}
            noting={noting}
            onClose={() => setSheet(null)}
          />
        )}
        {sheet === null && (
          <>
            {plan?.answer && data.state === 'riding' ? (
              <PlannedLine plan={plan} test={data} units={units} />
            ) : (
              <NowLine test={data} units={units} />
            )}
            {strip && (
              <div className={classes.strip}>
                <Tideline
                  strip={strip}
                  band={planned ? bandOf(planned) : null}
                  units={units}
                  height={190}
                  charWidth={9}
                />
              </div>
            )}
            <RideFigures test={data} units={units} noting={noting} />
            {noting.questions.map((question) => (
              <p key={question} className={classes.question} role="alert">
                {question}
              </p>
            ))}
            {noting.error && (
              <p className={classes.question} role="alert">
                {noting.error.message}
              </p>
            )}
            {refused.map((entry) => (
              <p key={entry.id} className={classes.question} role="alert">
                Not taken: {entry.refused}{' '}
                <button type="button" onClick={() => noting.discard(entry)}>
                  Remove
                </button>
              </p>
            ))}
            <RidePad test={data} noting={noting} onOpen={setSheet} />
          </>
        )}
      </main>
    </div>
  );
}
