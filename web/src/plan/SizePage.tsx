import { Button, Progress, Select, Text, TextInput } from '@mantine/core';
import { useMutation } from '@tanstack/react-query';
import type { FormEvent } from 'react';
import { api, type Schemas, unwrap } from '../api/client';
import type { Units } from '../api/queries';
import { fieldOf, fieldsOf, sentFields, type TypedFields, typedFields } from '../format/fields';
import { chance, distanceText, massText, number, percent } from '../format/units';
import { useUnits } from '../format/useUnits';
import { CHEMISTRIES, SAFETY } from '../format/words';
import { FirstKit } from '../kit/FirstKit';
import { Answer } from '../trip/Answer';
import { askable, blankTrip, plain, type TripForm, tripBody, typedInto } from '../trip/form';
import { TripFields } from '../trip/TripFields';
import { type Kit, useKit, usualKit } from '../trip/useKit';
import classes from '../ui/Desk.module.css';
import { Explained } from '../ui/Explained';
import { FieldInput } from '../ui/FieldInput';
import { Page, Trouble, Waiting } from '../ui/Page';
import { useFields } from '../ui/useFields';
import { say } from '../words/en/plan.ftl';
import { PlanTabs } from './PlanTabs';

/** A common cell, in the core's units. */
const CELL = {
  capacity_ah: 3.4,
  nominal_v: 3.6,
  max_current_a: 8,
  resistance_ohm: 0.03,
  mass_kg: 0.048,
};

type SizeOut = Schemas['SizeOut'];
type CellIn = Schemas['CellIn'];
/** What a pack is sized for. */
const COLD_DAY_C = -5;

/** How big a pack a trip needs, on its coldest day, when the pack is old. */
export function SizePage() {
  const { kit, error } = useKit();
  return (
    <Page name={say('size-a-pack')} title={say('how-big-a-pack-does')}>
      <PlanTabs />
      {error && <Trouble error={error} onRetry={() => window.location.reload()} />}
      {!error && kit === null && <Waiting rows={4} height={60} />}
      {kit !== null &&
        (kit.vehicles.length === 0 || kit.packs.length === 0 ? (
          <FirstKit kit={kit} next={say('back-to-the-size')} />
        ) : (
          <SizeForm kit={kit} />
        ))}
    </Page>
  );
}

function SizeForm({ kit }: { kit: Kit }) {
  const units = useUnits();
  const trip = useFields<TripForm>(() => ({
    ...blankTrip(kit.reserve),
    ...usualKit(kit),
    route_id: kit.routes.find((route) => route.kind !== 'loop')?.id ?? kit.routes[0]?.id ?? '',
    and_back: true,
    typed: { ...blankTrip(kit.reserve).typed, temp_c: typedInto('temp_c', COLD_DAY_C, units) },
  }));
  const form = useFields(() => ({
    typed: { ...typedFields(fieldsOf('cell'), CELL, units), retired_at: '80' } as TypedFields,
    chemistry: 'nmc' as CellIn['chemistry'],
    parallel: '',
  }));
  const { typed, chemistry, parallel } = form.values;
  const size = useMutation({
    mutationFn: async () =>
      unwrap(
        await api.POST('/api/size', {
          body: {
            trip: tripBody(trip.values, units),
            cell: {
              ...(sentFields(fieldsOf('cell'), typed, units) as unknown as CellIn),
              chemistry,
              parallel: plain(parallel),
            },
            ...(sentFields(fieldsOf('size'), { retired_at: typed.retired_at || '80' }, units) as {
              retired_at: number;
            }),
          },
        }),
      ),
    onMutate: form.settle,
    onError: form.refuse,
  });
  const errors = tidy(form.errors);
  return (
    <div className={classes.layout}>
      <form
        className={classes.form}
        noValidate
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          size.mutate();
        }}
      >
        <h2>{say('the-cell-from-its-data')}</h2>
        <div className={classes.two}>
          {fieldsOf('cell').map((field) => (
            <FieldInput
              key={field.name}
              {...form.number(field, units)}
              error={errors[field.name]}
            />
          ))}
          <Select
            label={say('chemistry')}
            data={[...CHEMISTRIES]}
            {...form.field('chemistry')}
            allowDeselect={false}
          />
          <TextInput
            label={say('cells-in-parallel')}
            placeholder={say('as-many-as-needed')}
            {...form.field('parallel')}
            error={errors.parallel}
          />
          <FieldInput
            {...form.number(fieldOf('size', 'retired_at'), units)}
            error={errors.retired_at}
          />
        </div>
        <TripFields
          form={trip.values}
          kit={kit}
          units={units}
          errors={errors}
          onChange={trip.change}
        />
        <div className={classes.actions}>
          <Button
            type="submit"
            variant="filled"
            loading={size.isPending}
            disabled={!askable(trip.values)}
          >
            {say('size-the-pack')}
          </Button>
        </div>
      </form>
      <Answer label={say('the-pack')}>
        {size.error && (
          <Text role="alert" c="var(--buoy)">
            {size.error.message}
          </Text>
        )}
        {size.isPending ? (
          <div role="status" aria-live="polite">
            <p>{say('trying-packs-with-more-and')}</p>
            <Progress value={100} animated aria-label={say('sizing-the-pack')} my="sm" />
          </div>
        ) : size.data ? (
          <Sized size={size.data} units={units} />
        ) : (
          <p className={classes.why}>{say('enter-the-trip-on-its')}</p>
        )}
      </Answer>
    </div>
  );
}

function Sized({ size, units }: { size: SizeOut; units: Units }) {
  const figures: Array<[string, string]> = [
    [say('cells'), `${size.series}S ${size.parallel}P`],
    [say('on-the-label'), `${number(size.rated_wh, 0)} Wh`],
    [say('needed'), `${number(size.needed_wh, 0)} Wh`],
    [say('mass-with-case'), massText(size.mass_kg, units)],
    [say('per-cell-at-most'), `${number(size.peak_cell_current_a, 1)} A`],
    [say('per-cell-on-average'), `${number(size.continuous_cell_current_a, 1)} A`],
    [say('most-sag'), percent(size.sag_fraction)],
  ];
  return (
    <>
      <p className={classes.headline} role="status">
        {size.fits ? '' : '✕ '}
        <Explained text={size.notice.message} />
      </p>
      <div className={classes.figures}>
        {figures.map(([label, value]) => (
          <div key={label} className={classes.figure}>
            <i>{label}</i>
            <b>{value}</b>
          </div>
        ))}
      </div>
      {size.range_gain_with_one_more_m != null && size.arrives_with_one_more != null && (
        <p>
          {say('one-more-cell-in-parallel', {
            range_gain_with_one_more_m: distanceText(size.range_gain_with_one_more_m, units),
            arrives_probability: chance(size.arrives_probability),
            arrives_with_one_more: chance(size.arrives_with_one_more),
          })}
        </p>
      )}
      <p className={classes.why} style={{ marginTop: 10 }}>
        {SAFETY.building}
      </p>
    </>
  );
}

/** Faults of nested fields by their last name. */
function tidy(fields: Record<string, string>): Record<string, string> {
  return Object.fromEntries(
    Object.entries(fields).map(([name, text]) => [name.replace(/^(trip|cell)\./, ''), text]),
  );
}
