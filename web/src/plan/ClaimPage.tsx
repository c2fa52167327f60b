import { Button, Select, TextInput } from '@mantine/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { api, type Schemas, unwrap } from '../api/client';
import { claimsQuery, type Units } from '../api/queries';
import { fieldOf, fieldsOf, sentFields, type TypedFields, typedFields } from '../format/fields';
import { consumptionText, distanceText, number, speed, speedUnit } from '../format/units';
import { useUnits } from '../format/useUnits';
import { VEHICLE_KINDS, VERDICTS } from '../format/words';
import { Answer } from '../trip/Answer';
import classes from '../ui/Desk.module.css';
import { Explained } from '../ui/Explained';
import { FieldInput } from '../ui/FieldInput';
import { sayDone } from '../ui/notes';
import { Page, Trouble, Waiting } from '../ui/Page';
import { Refusal } from '../ui/Refusal';
import { useFields } from '../ui/useFields';
import { useRemoval } from '../ui/useRemoval';
import { say } from '../words/en/plan.ftl';
import { Shown } from '../words/Shown';
import { PlanTabs } from './PlanTabs';

type ClaimBody = Schemas['ClaimIn'];

interface ClaimForm {
  name: string;
  kind: string;
  typed: TypedFields;
}

/** A light rider, as makers take them. */
const LOAD_KG = 75;

function blank(units: Units): ClaimForm {
  const typed = typedFields(fieldsOf('claim'), { load_kg: LOAD_KG }, units);
  return { name: '', kind: 'kick_scooter', typed };
}

/** Can a maker's figure be true? A sentence for an answer. */
export function ClaimPage() {
  const units = useUnits();
  const claims = useQuery(claimsQuery);
  const queryClient = useQueryClient();
  const [claimId, setClaimId] = useState(() => crypto.randomUUID());
  const form = useFields(() => blank(units));
  const check = useMutation({
    mutationFn: async () =>
      unwrap(await api.POST('/api/claims/check', { body: bodyOf(form.values, units) })),
    onMutate: form.settle,
    onError: form.refuse,
  });
  const keep = useMutation({
    mutationFn: async () =>
      unwrap(
        await api.PUT('/api/claims/{claim_id}', {
          params: { path: { claim_id: claimId } },
          body: bodyOf(form.values, units),
        }),
      ),
    onMutate: form.settle,
    onError: form.refuse,
    onSuccess: (stored) => {
      sayDone(say('stored-is-saved', { stored: stored.name }));
      setClaimId(crypto.randomUUID());
      form.change(blank(units));
      check.reset();
      queryClient.invalidateQueries({ queryKey: claimsQuery.queryKey });
    },
  });
  const field = (name: string) => {
    const props = form.number(fieldOf('claim', name), units);
    const onType = (text: string) => {
      props.onType(text);
      check.reset();
    };
    return { ...props, onType };
  };
  return (
    <Page name={say('claim-check')} title={say('can-the-makers-figure-be')}>
      <PlanTabs />
      <div className={classes.layout}>
        <form
          className={classes.form}
          noValidate
          onSubmit={(event: FormEvent) => {
            event.preventDefault();
            check.mutate();
          }}
        >
          <div className={classes.two}>
            <FieldInput {...field('rated_wh')} />
            <FieldInput {...field('distance_m')} />
            <FieldInput {...field('speed_mps')} />
            <Select
              label={say('kind')}
              data={[...VEHICLE_KINDS]}
              {...form.field('kind')}
              allowDeselect={false}
            />
            <FieldInput {...field('load_kg')} placeholder={say('a-light-rider')} />
            <FieldInput {...field('vehicle_mass_kg')} placeholder={say('a-light-one')} />
          </div>
          <div className={classes.actions}>
            <Button type="submit" variant="filled" loading={check.isPending}>
              {say('check-it')}
            </Button>
          </div>
        </form>
        <Answer label={say('the-verdict')}>
          <Refusal error={form.trouble} />
          {check.data ? (
            <>
              <p className={classes.headline} role="status">
                <Explained text={check.data.notice.message} />
              </p>
              <Ladder answer={check.data} units={units} />
              <div className={classes.actions} style={{ alignItems: 'end' }}>
                <TextInput
                  label={say('save-it-as')}
                  placeholder={say('a-flyer-at-the-ferry')}
                  {...form.field('name')}
                />
                <Button
                  onClick={() => keep.mutate()}
                  loading={keep.isPending}
                  disabled={form.values.name.trim() === ''}
                >
                  {say('keep')}
                </Button>
              </div>
            </>
          ) : (
            <p className={classes.why}>{say('the-least-a-vehicle-can')}</p>
          )}
          <h2>{say('saved-claims')}</h2>
          {claims.isPending && <Waiting rows={2} height={40} />}
          {claims.error && <Trouble error={claims.error} onRetry={() => claims.refetch()} />}
          {claims.data?.length === 0 && <p className={classes.why}>{say('none-yet')}</p>}
          <ul className={classes.rows}>
            {claims.data?.map((claim) => (
              <li key={claim.id}>
                <span>
                  <Shown
                    say={say}
                    id="at-on-wh"
                    values={{
                      claim: claim.name,
                      distance_m: distanceText(claim.distance_m, units),
                      speed_mps: number(speed(claim.speed_mps, units), 0),
                      speed_unit: speedUnit(units),
                      rated_wh: number(claim.rated_wh, 0),
                    }}
                    parts={{ b: <b /> }}
                  />
                  <br />
                  <small style={{ color: 'var(--soft)' }}>{claim.answer.notice.message}</small>
                </span>
                <span style={{ textAlign: 'right' }}>
                  <b style={{ color: claim.answer.possible ? 'var(--kelp)' : 'var(--buoy)' }}>
                    {claim.answer.possible ? '✓ ' : '✕ '}
                    {VERDICTS[claim.answer.verdict]}
                  </b>
                  <br />
                  <RemoveClaim id={claim.id} name={claim.name} />
                </span>
              </li>
            ))}
          </ul>
        </Answer>
      </div>
    </Page>
  );
}

function RemoveClaim({ id, name }: { id: string; name: string }) {
  const params = { path: { claim_id: id } };
  const removal = useRemoval({
    what: `“${name}”`,
    remove: async () => unwrap(await api.DELETE('/api/claims/{claim_id}', { params })),
    restore: async () => unwrap(await api.POST('/api/claims/{claim_id}/restore', { params })),
    lists: [claimsQuery.queryKey],
  });
  return (
    <Button
      size="compact-xs"
      variant="subtle"
      aria-label={say('remove-name', { name })}
      onClick={removal.tap}
      loading={removal.pending}
    >
      {say('remove')}
    </Button>
  );
}

interface LadderProps {
  answer: Schemas['ClaimAnswerOut'];
  units: Units;
}

/** The claim between the least and the usual, in the rider's own unit. */
function Ladder({ answer, units }: LadderProps) {
  const per = (whPerKm: number) => consumptionText(whPerKm, units);
  const needed = answer.speed_it_would_need_mps;
  return (
    <div className={classes.figures}>
      <div className={classes.figure}>
        <i>{say('the-claim-allows')}</i>
        <b>{per(answer.implied_wh_per_km)}</b>
      </div>
      <div className={classes.figure}>
        <i>{say('the-least-possible')}</i>
        <b>{per(answer.least_wh_per_km)}</b>
      </div>
      <div className={classes.figure}>
        <i>{say('usual')}</i>
        <b>{per(answer.usual_wh_per_km)}</b>
      </div>
      {needed != null && (
        <div className={classes.figure}>
          <i>{say('it-would-need')}</i>
          <b>
            {number(speed(needed, units), 0)} <small>{speedUnit(units)}</small>
          </b>
        </div>
      )}
    </div>
  );
}

function bodyOf(form: ClaimForm, units: Units): ClaimBody {
  return {
    ...(sentFields(fieldsOf('claim'), form.typed, units) as unknown as ClaimBody),
    name: form.name.trim() || say('a-claim'),
    note: '',
    vehicle_kind: form.kind as ClaimBody['vehicle_kind'],
  };
}
