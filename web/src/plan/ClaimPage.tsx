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
      sayDone(`“${stored.name}” is saved.`);
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
    <Page name="Claim check" title="Can the maker’s figure be true?">
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
              label="Kind"
              data={[...VEHICLE_KINDS]}
              {...form.field('kind')}
              allowDeselect={false}
            />
            <FieldInput {...field('load_kg')} placeholder="a light rider" />
            <FieldInput {...field('vehicle_mass_kg')} placeholder="a light one" />
          </div>
          <div className={classes.actions}>
            <Button type="submit" variant="filled" loading={check.isPending}>
              Check it
            </Button>
          </div>
        </form>
        <Answer label="The verdict">
          <Refusal error={form.trouble} />
          {check.data ? (
            <>
              <p className={classes.headline} role="status">
                <Explained text={check.data.notice.message} />
              </p>
              <Ladder answer={check.data} units={units} />
              <div className={classes.actions} style={{ alignItems: 'end' }}>
                <TextInput
                  label="Save it as"
                  placeholder="A flyer at the ferry"
                  {...form.field('name')}
                />
                <Button
                  onClick={() => keep.mutate()}
                  loading={keep.isPending}
                  disabled={form.values.name.trim() === ''}
                >
                  Keep
                </Button>
              </div>
            </>
          ) : (
            <p className={classes.why}>
              The least a vehicle can use at a speed, from rolling and air alone, with values so
              generous that no vehicle beats them: CdA 0.40 m², rolling resistance 0.006, efficiency
              90%, no wind, stops, hills or lights. A figure below that is impossible.
            </p>
          )}
          <h2>Saved claims</h2>
          {claims.isPending && <Waiting rows={2} height={40} />}
          {claims.error && <Trouble error={claims.error} onRetry={() => claims.refetch()} />}
          {claims.data?.length === 0 && <p className={classes.why}>None yet.</p>}
          <ul className={classes.rows}>
            {claims.data?.map((claim) => (
              <li key={claim.id}>
                <span>
                  <b>{claim.name}</b>: {distanceText(claim.distance_m, units)} at{' '}
                  {number(speed(claim.speed_mps, units), 0)} {speedUnit(units)} on{' '}
                  {number(claim.rated_wh, 0)} Wh
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
      aria-label={`Remove ${name}`}
      onClick={removal.tap}
      loading={removal.pending}
    >
      Remove
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
        <i>the claim allows</i>
        <b>{per(answer.implied_wh_per_km)}</b>
      </div>
      <div className={classes.figure}>
        <i>the least possible</i>
        <b>{per(answer.least_wh_per_km)}</b>
      </div>
      <div className={classes.figure}>
        <i>usual</i>
        <b>{per(answer.usual_wh_per_km)}</b>
      </div>
      {needed != null && (
        <div className={classes.figure}>
          <i>it would need</i>
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
    name: form.name.trim() || 'A claim',
    note: '',
    vehicle_kind: form.kind as ClaimBody['vehicle_kind'],
  };
}
