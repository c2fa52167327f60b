import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useCallback, useEffect, useState } from 'react';
import { useParams } from 'react-router';
import { planOfTestQuery, testQuery, tracesQuery } from '../api/queries';
import { useUnits } from '../format/useUnits';
import { sheetDialog } from '../places/sheetPart';
import type { PartName } from '../sheet/sheet';
import { Trouble, Waiting } from '../ui/Page';
import { useTitle } from '../ui/useTitle';
import { say } from '../words/en/result.ftl';
import classes from './Result.module.css';
import { ResultBody } from './ResultBody';
import { useWorking } from './useWorking';
import { WalkCards } from './WalkCards';

// Dialogs are loaded when one is opened.
const SheetDialog = sheetDialog.Place;
const PictureDialog = lazy(() => import('./PictureDialog'));

/** One test: the answer first, then the drawing, then the working. */
export function ResultPage() {
  const { testId = '' } = useParams();
  const test = useQuery(testQuery(testId));
  // Asked for beside the test, not after it: both are on their way while the page is drawn.
  const traces = useQuery(tracesQuery(testId, null));
  const plan = useQuery(planOfTestQuery(testId, test.data?.computed)).data ?? null;
  const units = useUnits();
  const [part, setPart] = useState<PartName | null>(null);
  const [pictured, setPictured] = useState(false);
  const picture = useCallback(() => setPictured(true), []);
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
      <ResultBody
        test={test.data}
        traces={traces.data ?? null}
        plan={plan}
        units={units}
        opens={opens}
        onChange={setPart}
        onPicture={picture}
      />
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
