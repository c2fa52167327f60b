import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useParams } from 'react-router';
import { isDue, planOfTestQuery, testQuery, tracesQuery } from '../api/queries';
import { useUnits } from '../format/useUnits';
import { bandOf } from '../tideline/band';
import { reachOf } from '../tideline/geometry';
import { Tideline } from '../tideline/Tideline';
import { Trouble, Waiting } from '../ui/Page';
import { useTitle } from '../ui/useTitle';
import { AgainstPlan } from './AgainstPlan';
import { Crumb } from './Crumb';
import { EntriesSection } from './EntriesSection';
import { FiguresRow } from './FiguresRow';
import { HowSure } from './HowSure';
import classes from './Result.module.css';
import { Sentence } from './Sentence';
import { TracesSection } from './TracesSection';
import { Warnings } from './Warnings';

const COMING = 'The result is being computed.';
const NOTHING = 'Nothing is noted yet. The first entry makes a result.';

/** One test: the answer first, then the drawing, then the working. */
export function ResultPage() {
  const { testId = '' } = useParams();
  const test = useQuery(testQuery(testId));
  // Asked for beside the test, not after it: both are on their way while the page is drawn.
  const traces = useQuery(tracesQuery(testId, null));
  const plan = useQuery(planOfTestQuery(testId)).data ?? null;
  const units = useUnits();
  const [cursorM, setCursorM] = useState<number | null>(null);
  useTitle(test.data?.title ?? 'Test');
  // Traces that came before the first result know no way to be drawn over.
  const early = test.data?.result?.distance != null && traces.data?.distance_m === null;
  const { refetch } = traces;
  useEffect(() => {
    if (early) void refetch();
  }, [early, refetch]);
  if (test.isPending) return <Waiting rows={4} height={90} />;
  if (test.data === undefined) return <Trouble error={test.error} onRetry={() => test.refetch()} />;
  const { result, strip, figures } = test.data;
  return (
    <>
      <Crumb test={test.data} units={units} />
      {result == null || strip == null || figures == null ? (
        <h1 className={classes.sentence}>
          {test.data.trouble || (isDue(test.data) ? COMING : NOTHING)}
        </h1>
      ) : (
        <>
          {isDue(test.data) && <p role="status">{COMING} What stands here is from before.</p>}
          <Sentence test={test.data} figures={figures} units={units} />
          <div className={classes.layout}>
            <div>
              <FiguresRow figures={figures} result={result} units={units} />
              <Tideline
                strip={strip}
                units={units}
                cursorM={cursorM}
                lengthM={reachOf(strip) * 1.04}
                band={plan?.answer ? bandOf(plan.answer.forecast) : null}
              />
              {!test.data.has_samples && <EntriesSection test={test.data} units={units} />}
              {test.data.has_samples && (
                <TracesSection
                  testId={testId}
                  startedAt={test.data.started_at}
                  strip={strip}
                  units={units}
                  onCursor={setCursorM}
                />
              )}
            </div>
            <aside className={classes.aside}>
              <HowSure result={result} units={units} />
              {plan && <AgainstPlan plan={plan} result={result} units={units} />}
              <Warnings warnings={result.warnings} />
            </aside>
          </div>
        </>
      )}
      {(test.data.has_samples || result == null) && (
        <EntriesSection test={test.data} units={units} />
      )}
    </>
  );
}
