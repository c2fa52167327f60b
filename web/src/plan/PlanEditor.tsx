import { Button, Text } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { ApiError, api, unwrap } from '../api/client';
import { type Plan, plansQuery, previewQuery, TESTS_KEY } from '../api/queries';
import { localIso } from '../format/time';
import { unitsKey } from '../format/units';
import { useUnits } from '../format/useUnits';
import { Answer } from '../trip/Answer';
import { askable, hasWay } from '../trip/form';
import { answerLine } from '../trip/line';
import { TripFields } from '../trip/TripFields';
import type { Kit } from '../trip/useKit';
import classes from '../ui/Desk.module.css';
import { sayDone } from '../ui/notes';
import { Page, Waiting } from '../ui/Page';
import { useDraft } from '../ui/useDraft';
import { useRemoval } from '../ui/useRemoval';
import { say } from '../words/en/plan.ftl';
import { BeforeYouGo } from './BeforeYouGo';
import { Guesses } from './Guesses';
import { PlanPreview } from './PlanPreview';
import { type PlanForm, planBody } from './planForm';
import { QuestionFields } from './QuestionFields';
import { SeriesOf } from './Series';

interface PlanEditorProps {
  planId: string;
  kit: Kit;
  plan: Plan | null;
  start: PlanForm;
}

const NO_ERRORS = {};

/** Question, rules, kit, route, conditions; beside them, live, what they come to. */
export function PlanEditor({ planId, kit, plan, start }: PlanEditorProps) {
  const units = useUnits();
  const navigate = useNavigate();
  const queryClient = useQueryClient();
  const { form, change, settle, reset, restored } = useDraft(
    `${plan ? `plan-${planId}` : 'new-plan'} ${unitsKey(units)}`,
    start,
  );
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
      settle();
      await kept();
      sayDone(say('plan-saved'));
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
      settle();
      kept();
      queryClient.invalidateQueries({ queryKey: TESTS_KEY });
      navigate(`/ride/${testId}`);
    },
  });
  const params = { path: { plan_id: planId } };
  const removal = useRemoval({
    what: `“${plan?.title ?? say('the-plan')}”`,
    remove: async () => unwrap(await api.DELETE('/api/plans/{plan_id}', { params })),
    restore: async () => unwrap(await api.POST('/api/plans/{plan_id}/restore', { params })),
    lists: [plansQuery.queryKey],
    onDone: () => navigate('/plan'),
  });
  const failure = store.error ?? ride.error ?? removal.error ?? preview.error;
  const errors = failure instanceof ApiError ? failure.fields : NO_ERRORS;
  return (
    <Page
      name={plan ? plan.title : say('plan-a-test')}
      title={plan ? <b>{plan.title}</b> : say('plan-a-test-title')}
      actions={
        ridden ? (
          <Button variant="filled" onClick={() => navigate(`/ride/${plan?.test_id}`)}>
            {say('open-its-ride')}
          </Button>
        ) : (
          <>
            {plan && (
              <Button variant="subtle" onClick={removal.tap} loading={removal.pending}>
                {say('remove')}
              </Button>
            )}
            <Button onClick={() => store.mutate()} loading={store.isPending}>
              {say('save-the-plan')}
            </Button>
            <Button variant="filled" onClick={() => ride.mutate()} loading={ride.isPending}>
              {say('start-the-ride')}
            </Button>
          </>
        )
      }
    >
      <div className={classes.layout}>
        {restored && !ridden && (
          <p className={classes.draft} role="status">
            {say('your-unsaved-changes-are-back')}{' '}
            <Button size="compact-sm" onClick={reset}>
              {say('discard-it')}
            </Button>
          </p>
        )}
        <form className={classes.form} onSubmit={(event) => event.preventDefault()} noValidate>
          <QuestionFields
            form={form}
            units={units}
            rules={preview.data?.rules}
            errors={errors}
            onChange={change}
          />
          <TripFields form={form} kit={kit} units={units} errors={errors} onChange={change} />
        </form>
        <Answer
          label={say('what-to-expect')}
          line={answerLine(failure, form, preview.data?.forecast, units)}
        >
          {failure && (
            <Text role="alert" c="var(--buoy)" mb="sm">
              {failure.message}
            </Text>
          )}
          {!askable(form) && <p>{say('choose-a-route-or-sketch')}</p>}
          {askable(form) && preview.isPending && !preview.error && (
            <div className={classes.coming}>
              <Waiting rows={5} height={100} />
            </div>
          )}
          {preview.data && askable(form) && (
            <PlanPreview
              preview={preview.data}
              units={units}
              pending={preview.isPlaceholderData}
              planId={plan ? planId : null}
              vehicleId={form.vehicle_id}
              packId={form.pack_id}
            />
          )}
          {plan?.trouble && <p role="alert">{plan.trouble}</p>}
          {plan?.answer && <BeforeYouGo plan={plan} checklist={plan.answer.checklist} />}
          {plan?.series && <SeriesOf seriesId={plan.series} />}
          {plan && <Guesses plan={plan} units={units} />}
        </Answer>
      </div>
    </Page>
  );
}
