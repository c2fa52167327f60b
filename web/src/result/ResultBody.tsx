import { memo } from 'react';
import { isDue, type Plan, type TestDetail, type Traces, type Units } from '../api/queries';
import { SheetSection } from '../sheet/SheetSection';
import type { PartName } from '../sheet/sheet';
import { Later } from '../ui/Later';
import { say } from '../words/en/result.ftl';
import { AgainstPlan } from './AgainstPlan';
import { ChangedNote } from './ChangedNote';
import { ClaimSection } from './ClaimSection';
import { Contents } from './Contents';
import { Crumb } from './Crumb';
import { Drawings } from './Drawings';
import { EntriesSection } from './EntriesSection';
import { FiguresRow } from './FiguresRow';
import { GaugeSection } from './GaugeSection';
import { HowSure } from './HowSure';
import { LegsSection } from './LegsSection';
import { PackSection } from './PackSection';
import { PromiseSection } from './PromiseSection';
import classes from './Result.module.css';
import { SagSection } from './SagSection';
import { Sentence } from './Sentence';
import type { Opens } from './useWorking';
import { Warnings } from './Warnings';

const COMING = say('working-out-the-result');
const NOTHING = say('nothing-is-noted-yet-the');

interface ResultBodyProps {
  test: TestDetail;
  traces: Traces | null;
  plan: Plan | null;
  units: Units;
  opens: Opens;
  onChange: (part: PartName) => void;
  onPicture: () => void;
}

/** Everything that a result says. It is drawn anew when its test is, and not when something opens over it. */
export const ResultBody = memo(function ResultBody({
  test,
  traces,
  plan,
  units,
  opens,
  onChange,
  onPicture,
}: ResultBodyProps) {
  const { result, strip, figures, sheet } = test;
  const there = result != null && strip != null && figures != null;
  return (
    <>
      <Crumb test={test} units={units} onChange={onChange} onPicture={there ? onPicture : null} />
      {!there ? (
        <h1 className={classes.sentence}>{test.trouble || (isDue(test) ? COMING : NOTHING)}</h1>
      ) : (
        <>
          {isDue(test) && (
            <p role="status">{say('these-figures-are-from-before', { coming: COMING })}</p>
          )}
          <Sentence result={result} />
          <Contents />
          {test.changed && (
            <ChangedNote
              testId={test.id}
              changed={test.changed}
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
                startedAt={test.started_at}
              />
              <Drawings test={test} strip={strip} plan={plan} units={units} />
              <Later>
                <PromiseSection
                  result={result}
                  startedAt={test.started_at}
                  units={units}
                  opens={opens}
                />
                <LegsSection result={result} traces={traces} units={units} />
                <GaugeSection result={result} units={units} />
                <SagSection sag={test.sag} result={result} units={units} opens={opens} />
                <PackSection result={result} units={units} opens={opens} />
                <ClaimSection
                  result={result}
                  units={units}
                  opens={opens}
                  onSay={() => onChange('claim')}
                />
              </Later>
            </div>
            <aside className={classes.aside}>
              <Later>
                <HowSure result={result} units={units} />
                {plan && <AgainstPlan plan={plan} result={result} units={units} />}
                <Warnings warnings={result.warnings} />
              </Later>
            </aside>
          </div>
        </>
      )}
      <Later>
        <EntriesSection test={test} units={units} />
        {sheet && (
          <SheetSection
            testId={test.id}
            kit={{ vehicle: test.vehicle_id, pack: test.pack_id, rider: test.rider_id }}
            sheet={sheet}
            units={units}
            onChange={onChange}
          />
        )}
      </Later>
    </>
  );
});
