import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { plansQuery } from '../api/queries';
import { chance, distanceText } from '../format/units';
import { useUnits } from '../format/useUnits';
import { labelOf, PURPOSES } from '../format/words';
import classes from '../ui/Desk.module.css';
import { Page, Trouble, Waiting } from '../ui/Page';
import { say } from '../words/en/plan.ftl';
import { Shown } from '../words/Shown';
import { PlanTabs } from './PlanTabs';
import { Wagers } from './Wagers';
import { waitingOf } from './waiting';

/** The plans, those that wait first. */
export function PlansPage() {
  const plans = useQuery(plansQuery);
  const units = useUnits();
  const next = waitingOf(plans.data ?? []);
  const waiting = next.length;
  const rows = plans.data?.filter((plan) => plan.test_id !== null || next.includes(plan));
  return (
    <Page
      name={say('plans')}
      title={
        plans.data === undefined ? (
          say('plans')
        ) : (
          <Shown say={say} id="plans-waiting" values={{ waiting }} parts={{ b: <b /> }} />
        )
      }
      actions={
        <Button component={Link} to="/plan/new" variant="filled">
          {say('plan-a-test')}
        </Button>
      }
    >
      <PlanTabs />
      {plans.isPending && <Waiting rows={3} height={44} />}
      {plans.error && <Trouble error={plans.error} onRetry={() => plans.refetch()} />}
      {plans.data?.length === 0 && <p>{say('a-plan-shows-before-you')}</p>}
      <ul className={classes.rows}>
        {rows?.map((plan) => (
          <li key={plan.id}>
            <span>
              <Link to={`/plan/${plan.id}`}>{plan.title}</Link>
              <br />
              <small style={{ color: 'var(--soft)' }}>{labelOf(PURPOSES, plan.purpose)}</small>
            </span>
            <span style={{ textAlign: 'right' }}>
              {plan.test_id ? (
                <Link to={`/tests/${plan.test_id}`}>{say('ridden-its-result')}</Link>
              ) : (
                plan.arrives_probability != null &&
                say('arrives-probability-sure', {
                  arrives_probability: chance(plan.arrives_probability),
                })
              )}
              <br />
              <small style={{ color: 'var(--soft)' }}>
                {plan.distance_m == null ? plan.trouble : distanceText(plan.distance_m, units)}
              </small>
            </span>
          </li>
        ))}
      </ul>
      <Wagers />
    </Page>
  );
}
