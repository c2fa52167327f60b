import { Button, Select, Text, TextInput } from '@mantine/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { ApiError, api, type Schemas, unwrap } from '../api/client';
import { claimsQuery, type Units } from '../api/queries';
import {
  distance,
  distanceText,
  number,
  speed,
  speedUnit,
  typedWithUnit,
  withUnit,
} from '../format/units';
import { useUnits } from '../format/useUnits';
import { VEHICLE_KINDS, VERDICTS } from '../format/words';
import { Answer } from '../trip/Answer';
import classes from '../trip/Trip.module.css';
import { sayDone } from '../ui/notes';
import { Page, Trouble, Waiting } from '../ui/Page';
import { useRemoval } from '../ui/useRemoval';
import { PlanTabs } from './PlanTabs';

type ClaimBody = Schemas['ClaimIn'];

const BLANK = {
  name: '',
  energy: '',
  far: '',
  speed: '',
  load: '75 kg',
  kind: 'kick_scooter',
  mass: '',
};

/** Can a maker's figure be true? A sentence for an answer. */
export function ClaimPage() {
  const units = useUnits();
  const claims = useQuery(claimsQuery);
  const queryClient = useQueryClient();
  const [claimId, setClaimId] = useState(() => crypto.randomUUID());
  const [typed, setTyped] = useState(BLANK);
  const check = useMutation({
    mutationFn: async () =>
      unwrap(await api.POST('/api/claims/check', { body: bodyOf(typed, units) })),
  });
  const keep = useMutation({
    mutationFn: async () =>
      unwrap(
        await api.PUT('/api/claims/{claim_id}', {
          params: { path: { claim_id: claimId } },
          body: bodyOf(typed, units),
        }),
      ),
    onSuccess: (stored) => {
      sayDone(`“${stored.name}” is kept.`);
      setClaimId(crypto.randomUUID());
      setTyped(BLANK);
      check.reset();
      queryClient.invalidateQueries({ queryKey: claimsQuery.queryKey });
    },
  });
  const failure = check.error ?? keep.error;
  const errors = failure instanceof ApiError ? failure.fields : {};
  const field = (name: keyof typeof BLANK) => ({
    value: typed[name],
    onChange: (event: { currentTarget: { value: string } }) => {
      setTyped({ ...typed, [name]: event.currentTarget.value });
      check.reset();
    },
  });
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
            <TextInput
              label="Energy on the label"
              placeholder="468 Wh"
              {...field('energy')}
              error={errors.rated_wh}
              withAsterisk
            />
            <TextInput
              label="Distance claimed"
              placeholder={units.distance === 'mi' ? '75 mi' : '120 km'}
              {...field('far')}
              error={errors.distance_m}
              withAsterisk
            />
            <TextInput
              label="At a speed of"
              placeholder={`15 ${speedUnit(units)}`}
              {...field('speed')}
              error={errors.speed_mps}
              withAsterisk
            />
            <Select
              label="Kind"
              data={[...VEHICLE_KINDS]}
              value={typed.kind}
              onChange={(value) => setTyped({ ...typed, kind: value ?? 'other' })}
            />
            <TextInput
              label="Load"
              placeholder="a light rider"
              {...field('load')}
              error={errors.load_kg}
            />
            <TextInput
              label="Vehicle"
              placeholder="a light one"
              {...field('mass')}
              error={errors.vehicle_mass_kg}
            />
          </div>
          <div className={classes.actions}>
            <Button type="submit" variant="filled" loading={check.isPending}>
              Check it
            </Button>
          </div>
        </form>
        <Answer label="The verdict">
          {failure && Object.keys(errors).length === 0 && (
            <Text role="alert" c="var(--buoy)">
              {failure.message}
            </Text>
          )}
          {check.data ? (
            <>
              <p className={classes.headline} role="status">
                {check.data.notice.message}
              </p>
              <Ladder answer={check.data} units={units} />
              <div className={classes.actions} style={{ alignItems: 'end' }}>
                <TextInput
                  label="Keep it as"
                  placeholder="A flyer at the ferry"
                  {...field('name')}
                  error={errors.name}
                />
                <Button
                  onClick={() => keep.mutate()}
                  loading={keep.isPending}
                  disabled={typed.name.trim() === ''}
                >
                  Keep
                </Button>
              </div>
            </>
          ) : (
            <p className={classes.why}>
              The least that a body can use at a speed is worked out from rolling and air alone,
              with values so generous that no vehicle beats them: CdA 0.40 m², rolling resistance
              0.006, efficiency 90 %, no wind, stops, hills or lights. A figure below it cannot be.
            </p>
          )}
          <h2>Claims kept</h2>
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
  const per = (whPerKm: number) =>
    `${number(units.distance === 'mi' ? whPerKm * 1.609344 : whPerKm, 1)} Wh/${units.distance}`;
  const needed = answer.speed_it_would_need_mps;
  return (
    <div className={classes.figures}>
      <div className={classes.figure}>
        <i>the claim leaves</i>
        <b>{per(answer.implied_wh_per_km)}</b>
      </div>
      <div className={classes.figure}>
        <i>the least there is</i>
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
            {number(distance(needed * 3600, units), 0)} <small>{speedUnit(units)}</small>
          </b>
        </div>
      )}
    </div>
  );
}

function bodyOf(typed: typeof BLANK, units: Units): ClaimBody {
  return {
    name: typed.name.trim() || 'A claim',
    note: '',
    rated_wh: typedWithUnit(typed.energy, 'Wh'),
    distance_m: typedWithUnit(typed.far, units.distance),
    speed_mps: typedWithUnit(typed.speed, speedUnit(units)),
    load_kg: withUnit(typed.load, 'kg'),
    vehicle_kind: typed.kind as ClaimBody['vehicle_kind'],
    vehicle_mass_kg: withUnit(typed.mass, 'kg'),
  };
}
