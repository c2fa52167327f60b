import { Suspense, useState } from 'react';
import type { Plan, Strip, TestDetail, Units } from '../api/queries';
import { traces as tracesPart } from '../places/tracesPart';
import { bandOf } from '../tideline/band';
import { reachOf } from '../tideline/geometry';
import { Tideline } from '../tideline/Tideline';
import { photosOf } from './photos';
import classes from './Result.module.css';

// Charts are loaded where there is something to chart.
const TracesSection = tracesPart.Place;

interface DrawingsProps {
  test: TestDetail;
  strip: Strip;
  plan: Plan | null;
  units: Units;
}

/** The tideline over traces and map: what the cursor points at in one is shown in all, and nothing else moves. */
export function Drawings({ test, strip, plan, units }: DrawingsProps) {
  const [cursorM, setCursorM] = useState<number | null>(null);
  return (
    <>
      <div className={classes.tide} data-walk="tideline">
        <Tideline
          strip={strip}
          units={units}
          cursorM={cursorM}
          lengthM={reachOf(strip) * 1.04}
          band={plan?.answer ? bandOf(plan.answer.forecast) : null}
          photos={photosOf(test, strip, units)}
        />
      </div>
      {test.has_samples && (
        <Suspense fallback={<div style={{ height: test.path ? '56rem' : '36rem' }} aria-busy />}>
          <TracesSection
            test={test}
            strip={strip}
            units={units}
            cursorM={cursorM}
            onCursor={setCursorM}
          />
        </Suspense>
      )}
    </>
  );
}
