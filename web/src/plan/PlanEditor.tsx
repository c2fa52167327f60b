import { Button, Text } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { ApiError, api, unwrap } from '../api/client';
import { type Plan, plansQuery, previewQuery, testsQuery } from '../api/queries';
import { localIso } from '../format/time';
import { useUnits } from '../format/useUnits';
import { Page } from '../shell/Page';
import { askable, hasWay } from '../trip/form';
import classes from '../trip/Trip.module.css';
import { TripFields } from '../trip/TripFields';
import type { Kit } from '../trip/useKit';
import { BeforeYouGo } from './BeforeYouGo';
import { Guesses } from './Guesses';
import { PlanPreview } from './PlanPreview';
import { type PlanForm, planBody } from './planForm';
import { QuestionFields } from './QuestionFields';

interface PlanEditorProps {
  planId: string;
  kit: Kit;
  plan: Plan | null;
  start: PlanForm;
}

/** Question, rules, kit, route, conditions; beside them, live, what they come to. */
export function PlanEditor({ planId, kit, plan, start }: PlanEditorProps) {
  const units = useUnits();
  const navigate = useNavigate();
  const queryClient = useQueryClient();
  const [form, setForm] = useState(start);
  const [testId] = useState(() => crypto.randomUUID());
  const body = planBody(form, units);
  const [asked] = useDebouncedValue(body, 200);
  const preview = useQuery({ ...previewQuery(asked), enabled: askable(form) && hasWay(asked) });
  const ridden = plan?.test_id != null;
  const keep = async () =>
    unwrap(await api.PUT('/api/plans/{plan_id}', { params: { path: { plan_id: planId } }, body }));
  const kept = () => queryClient.invalidateQueries({ queryKey: plansQuery.queryKey });
  const store = useMutation({
    mutationFn: keep,
    onSuccess: async () => {
      await kept();
      navigate(`/plan/${planId}`);
    },
  });
  const ride = useMutation({
    mutationFn: async () => {
      if (!ridden) await keep();
      return unwrap(
        await api.PUT('/api/plans/{plan_id}/ride/{test_id}', {
          params: { path: { plan_id: planId, test_id: testId } },
          body: { started_at: localIso(new Date()) },
        }),
      );
    },
    onSuccess: () => {
      kept();
      queryClient.invalidateQueries({ queryKey: testsQuery.queryKey });
      navigate(`/ride/${testId}`);
    },
  });
  const failure = store.error ?? ride.error ?? preview.error;
  const errors = failure instanceof ApiError ? failure.fields : {};
  const change = (changed: Partial<PlanForm>) => setForm((before) => ({ ...before, ...changed }));
  return (
    <Page
      title={plan ? <b>{plan.title}</b> : 'Plan a test.'}
      actions={
        ridden ? (
          <Button variant="filled" onClick={() => navigate(`/ride/${plan?.test_id}`)}>
            Open its ride
          </Button>
        ) : (
          <>
            <Button onClick={() => store.mutate()} loading={store.isPending}>
              Keep the plan
            </Button>
            <Button variant="filled" onClick={() => ride.mutate()} loading={ride.isPending}>
              Start the ride
            </Button>
          </>
        )
      }
    >
      <div className={classes.layout}>
        <form className={classes.form} onSubmit={(event) => event.preventDefault()} noValidate>
          <QuestionFields
            form={form}
            rules={preview.data?.rules}
            errors={errors}
            onChange={change}
          />
          <TripFields form={form} kit={kit} units={units} errors={errors} onChange={change} />
        </form>
        <div className={classes.answer}>
          {failure && (
            <Text role="alert" c="var(--buoy)" mb="sm">
              {failure.message}
            </Text>
          )}
          {!askable(form) && (
            <p>Choose a route, or sketch one with its length, and see how it ends.</p>
          )}
          {preview.data && askable(form) && (
            <PlanPreview
              preview={preview.data}
              units={units}
              pending={preview.isPlaceholderData}
              planId={plan ? planId : null}
            />
          )}
          {plan && <BeforeYouGo plan={plan} />}
          {plan && <Guesses plan={plan} units={units} />}
        </div>
      </div>
    </Page>
  );
}
