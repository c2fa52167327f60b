import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useParams } from 'react-router';
import { type PlanIn, planQuery, type Rules, rulesQuery } from '../api/queries';
import { useUnits } from '../format/useUnits';
import { FirstKit } from '../kit/FirstKit';
import { blankTrip } from '../trip/form';
import { type Kit, useKit, usualKit } from '../trip/useKit';
import { Page, Trouble, Waiting } from '../ui/Page';
import { say } from '../words/en/plan.ftl';
import { PlanEditor } from './PlanEditor';
import { type PlanForm, planFormOf, ruled } from './planForm';

/** A new plan, or one that is kept. */
export function PlanPage() {
  const { planId } = useParams();
  return planId === undefined ? <NewPlan /> : <KeptPlan key={planId} planId={planId} />;
}

function NewPlan() {
  const { kit, error } = useKit();
  const rules = useQuery(rulesQuery);
  const [planId] = useState(() => crypto.randomUUID());
  if (error) return <Trouble whole error={error} onRetry={() => window.location.reload()} />;
  if (kit === null || rules.isPending) return <Waiting rows={4} height={60} />;
  if (kit.vehicles.length === 0 || kit.packs.length === 0) {
    return (
      <Page name={say('plan-a-test')} title={say('plan-a-test-title')}>
        <FirstKit kit={kit} next={say('back-to-the-plan')} />
      </Page>
    );
  }
  return (
    <PlanEditor planId={planId} kit={kit} plan={null} start={firstForm(kit, rules.data ?? [])} />
  );
}

function firstForm(kit: Kit, rules: Rules[]): PlanForm {
  return {
    ...blankTrip(kit.reserve),
    ...usualKit(kit),
    title: '',
    purpose: 'commute',
    end_rule: 'route_end',
    runs: '',
    counts_charge: true,
    rules: {},
    ...ruled(
      rules.find((item) => item.purpose === 'commute'),
      blankTrip(kit.reserve).typed,
    ),
  };
}

function KeptPlan({ planId }: { planId: string }) {
  const { kit, error } = useKit();
  const plan = useQuery(planQuery(planId));
  const units = useUnits();
  const trouble = error ?? plan.error;
  if (trouble) return <Trouble whole error={trouble} onRetry={() => plan.refetch()} />;
  if (kit === null || plan.data === undefined) return <Waiting rows={4} height={60} />;
  // The form is kept as it was typed, by name and in the API's own terms.
  const asked = plan.data.asked as Partial<PlanIn>;
  return (
    <PlanEditor
      planId={planId}
      kit={kit}
      plan={plan.data}
      start={planFormOf(asked, plan.data.title, units)}
    />
  );
}
