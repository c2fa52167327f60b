import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useEffect, useState } from 'react';
import { useParams } from 'react-router';
import { isDue, planOfTestQuery, testQuery, tracesQuery } from '../api/queries';
import { useUnits } from '../format/useUnits';
import { traces as tracesPart } from '../places/tracesPart';
import { SheetSection } from '../sheet/SheetSection';
import type { PartName } from '../sheet/sheet';
import { bandOf } from '../tideline/band';
import { reachOf } from '../tideline/geometry';
import { Tideline } from '../tideline/Tideline';
import { Trouble, Waiting } from '../ui/Page';
import { useTitle } from '../ui/useTitle';
import { say } from '../words/en/result.ftl';
import { AgainstPlan } from './AgainstPlan';
import { ChangedNote } from './ChangedNote';
import { ClaimSection } from './ClaimSection';
import { Contents } from './Contents';
import { Crumb } from './Crumb';
import { EntriesSection } from './EntriesSection';
import { FiguresRow } from './FiguresRow';
import { GaugeSection } from './GaugeSection';
import { HowSure } from './HowSure';
import { LegsSection } from './LegsSection';
import { PackSection } from './PackSection';
import { PromiseSection } from './PromiseSection';
import { photosOf } from './photos';
import classes from './Result.module.css';
import { SagSection } from './SagSection';
import { Sentence } from './Sentence';
import { useWorking } from './useWorking';
import { WalkCards } from './WalkCards';
import { Warnings } from './Warnings';

// Charts are loaded where there is something to chart, dialogs when one is opened.
const TracesSection = tracesPart.Place;
const SheetDialog = lazy(() => import('../sheet/SheetDialog'));
const PictureDialog = lazy(() => import('./PictureDialog'));

const COMING = say('working-out-the-result');
const NOTHING = say('nothing-is-noted-yet-the');

/** One test: the answer first, then the drawing, then the working. */
export function ResultPage() {
  const { testId = '' } = useParams();
  const test = useQuery(testQuery(testId));
  // Asked for beside the test, not after it: both are on their way while the page is drawn.
  const traces = useQuery(tracesQuery(testId, null));
  const plan = useQuery(planOfTestQuery(testId, test.data?.computed)).data ?? null;
  const units = useUnits();
  const [cursorM, setCursorM] = useState<number | null>(null);
  const [part, setPart] = useState<PartName | null>(null);
  const [pictured, setPictured] = useState(false);
  const { opens, dialog } = useWorking(test.data?.result, units);
  useTitle(test.data?.title ?? say('test-here'));
  // Traces that came before the first result know no way to be drawn over.
  const early = test.data?.result?.distance != null && traces.data?.distance_m === null;
  const { refetch } = traces;
  useEffect(() => {
    if (early) void refetch();
  }, [early, refetch]);
  if (test.isPending) return <Waiting rows={4} height={90} />;
  if (test.data === undefined)
    return <Trouble whole error={test.error} onRetry={() => test.refetch()} />;
  const { result, strip, figures, sheet } = test.data;
  return (
    <div className={classes.page}>
      <Crumb
        test={test.data}
        units={units}
        onChange={setPart}
        onPicture={result && strip && figures ? () => setPictured(true) : null}
      />
      {result == null || strip == null || figures == null ? (
        <h1 className={classes.sentence}>
          {test.data.trouble || (isDue(test.data) ? COMING : NOTHING)}
        </h1>
      ) : (
        <>
          {isDue(test.data) && (
            <p role="status">{say('these-figures-are-from-before', { coming: COMING })}</p>
          )}
          <Sentence result={result} />
          <Contents />
          {test.data.changed && (
            <ChangedNote
              testId={testId}
              changed={test.data.changed}
              figures={figures}
              planM={result.plan_on?.distance_m ?? null}
              units={units}
            />
          )}
          <div className={classes.layout}>
            <div>
              <FiguresRow
                figures={figures}
                result={result}
                units={units}
                opens={opens}
                startedAt={test.data.started_at}
              />
              <div className={classes.tide} data-walk="tideline">
                <Tideline
                  strip={strip}
                  units={units}
                  cursorM={cursorM}
                  lengthM={reachOf(strip) * 1.04}
                  band={plan?.answer ? bandOf(plan.answer.forecast) : null}
                  photos={photosOf(test.data, strip, units)}
                />
              </div>
              {test.data.has_samples && (
                <Suspense
                  fallback={
                    <div style={{ height: test.data.path ? '56rem' : '36rem' }} aria-busy />
                  }
                >
                  <TracesSection
                    test={test.data}
                    strip={strip}
                    units={units}
                    cursorM={cursorM}
                    onCursor={setCursorM}
                  />
                </Suspense>
              )}
              <PromiseSection
                result={result}
                startedAt={test.data.started_at}
                units={units}
                opens={opens}
              />
              <LegsSection result={result} traces={traces.data ?? null} units={units} />
              <GaugeSection result={result} units={units} />
              <SagSection sag={test.data.sag} result={result} units={units} opens={opens} />
              <PackSection result={result} units={units} opens={opens} />
              <ClaimSection
                result={result}
                units={units}
                opens={opens}
                onSay={() => setPart('claim')}
              />
            </div>
            <aside className={classes.aside}>
              <HowSure result={result} units={units} />
              {plan && <AgainstPlan plan={plan} result={result} units={units} />}
              <Warnings warnings={result.warnings} />
            </aside>
          </div>
        </>
      )}
      <EntriesSection test={test.data} units={units} />
      {sheet && (
        <SheetSection
          testId={testId}
          kit={{
            vehicle: test.data.vehicle_id,
            pack: test.data.pack_id,
            rider: test.data.rider_id,
          }}
          sheet={sheet}
          units={units}
          onChange={setPart}
        />
      )}
      {sheet && part !== null && (
        <Suspense fallback={null}>
          <SheetDialog
            key={part}
            testId={testId}
            part={part}
            sheet={sheet}
            units={units}
            onClose={() => setPart(null)}
          />
        </Suspense>
      )}
      {pictured && result && strip && figures && (
        <Suspense fallback={null}>
          <PictureDialog
            test={test.data}
            result={result}
            figures={figures}
            strip={strip}
            units={units}
            onClose={() => setPictured(false)}
          />
        </Suspense>
      )}
      {dialog}
      <WalkCards />
    </div>
  );
}
