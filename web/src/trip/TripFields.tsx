import { Checkbox, Select, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { memo } from 'react';
import { sessionQuery, type Units } from '../api/queries';
import { distanceText, speedUnit } from '../format/units';
import { PACK_USES, POLICIES, SURFACES } from '../format/words';
import type { TripForm } from './form';
import classes from './Trip.module.css';
import type { Kit } from './useKit';
import { WeatherFill } from './WeatherFill';

interface TripFieldsProps {
  form: TripForm;
  kit: Kit;
  units: Units;
  errors: Record<string, string>;
  onChange: (change: Partial<TripForm>) => void;
}

const SKETCH = 'sketch';

function named(items: ReadonlyArray<{ id: string; name: string }>) {
  return items.map((item) => ({ value: item.id, label: item.name }));
}

/** Kit, route, speed and conditions of a trip. Memoised: a slider beside it moves often. */
export const TripFields = memo(function TripFields(props: TripFieldsProps) {
  const { form, kit, units, errors, onChange } = props;
  const route = kit.routes.find((item) => item.id === form.route_id);
  const packs = Number(form.packs_count);
  const weather = useQuery(sessionQuery).data?.weather ?? 'none';
  const typed = (name: keyof TripForm) => ({
    value: String(form[name] ?? ''),
    onChange: (event: { currentTarget: { value: string } }) =>
      onChange({ [name]: event.currentTarget.value } as Partial<TripForm>),
  });
  return (
    <>
      <h2>Kit</h2>
      <div className={classes.two}>
        <Select
          label="Vehicle"
          data={named(kit.vehicles)}
          value={form.vehicle_id || null}
          onChange={(value) => onChange({ vehicle_id: value ?? '' })}
          error={errors.vehicle_id}
        />
        <Select
          label="Rider"
          data={[{ value: '', label: 'Not said' }, ...named(kit.riders)]}
          value={form.rider_id}
          onChange={(value) => onChange({ rider_id: value ?? '' })}
          error={errors.rider_id}
        />
        <Select
          label="Pack"
          data={named(kit.packs)}
          value={form.pack_id || null}
          onChange={(value) => onChange({ pack_id: value ?? '' })}
          error={errors.pack_id ?? errors.pack}
        />
        <TextInput
          label="How many"
          inputMode="numeric"
          {...typed('packs_count')}
          error={errors.packs_count}
        />
      </div>
      {packs > 1 && (
        <Select
          label="Used"
          data={[...PACK_USES]}
          value={form.packs_use}
          onChange={(value) =>
            onChange({ packs_use: (value ?? 'in_sequence') as TripForm['packs_use'] })
          }
        />
      )}
      <TextInput
        label="Known consumption"
        description="From earlier tests, on the flat in calm air; else its fit, else start values"
        inputWrapperOrder={['label', 'input', 'description', 'error']}
        rightSection={<span aria-hidden="true">Wh/{units.distance}</span>}
        rightSectionWidth={58}
        {...typed('known')}
        error={errors.known_consumption_wh_per_km}
      />
      <h2>Route</h2>
      <Select
        label="Route"
        data={[
          ...kit.routes.map((item) => ({
            value: item.id,
            label: `${item.name}, ${distanceText(item.length_m, units)}`,
          })),
          { value: SKETCH, label: 'A distance, sketched' },
        ]}
        value={form.route_id || SKETCH}
        onChange={(value) => onChange({ route_id: value === SKETCH ? '' : (value ?? '') })}
        error={errors.route_id ?? errors.legs ?? errors.route}
      />
      {!route && (
        <div className={classes.two}>
          <TextInput
            label="Length"
            placeholder={units.distance === 'mi' ? '7.5 mi' : '12 km'}
            inputMode="decimal"
            {...typed('length')}
            error={errors['legs.0.length_m']}
          />
          <TextInput
            label="Climb"
            placeholder="40 m"
            {...typed('climb')}
            error={errors['legs.0.climb_m']}
          />
          <Select
            label="Surface"
            data={[...SURFACES]}
            value={form.surface ?? 'smooth_paved'}
            onChange={(value) => onChange({ surface: value as TripForm['surface'] })}
          />
          <TextInput label="Stops" inputMode="numeric" placeholder="4" {...typed('stops')} />
        </div>
      )}
      {route?.kind === 'loop' ? (
        <TextInput
          label="Laps"
          description="Empty: as many as the reserve allows"
          inputWrapperOrder={['label', 'input', 'description', 'error']}
          inputMode="numeric"
          {...typed('laps')}
          error={errors.laps}
        />
      ) : (
        <>
          <Checkbox
            label="There and back by the same way"
            checked={form.and_back}
            onChange={(event) => onChange({ and_back: event.currentTarget.checked })}
          />
          <Checkbox
            label="Start from the other end"
            checked={form.reversed}
            onChange={(event) => onChange({ reversed: event.currentTarget.checked })}
          />
        </>
      )}
      <div className={classes.two}>
        <Select
          label="Ridden"
          data={[...POLICIES]}
          value={form.policy}
          onChange={(value) => onChange({ policy: (value ?? 'fixed') as TripForm['policy'] })}
        />
        <TextInput
          label="Speed"
          placeholder="usual for its kind"
          rightSection={<span aria-hidden="true">{speedUnit(units)}</span>}
          rightSectionWidth={52}
          inputMode="decimal"
          disabled={form.policy === 'flat_out'}
          {...typed('target')}
          error={errors.target_mps}
        />
      </div>
      <h2>Conditions</h2>
      {weather !== 'none' && <WeatherFill units={units} onFill={onChange} />}
      <div className={classes.two}>
        <TextInput
          label="Temperature"
          placeholder="not known"
          rightSection={<span aria-hidden="true">{units.temperature}</span>}
          {...typed('temp')}
          error={errors.temp_c}
        />
        <TextInput
          label="Tyre pressure"
          placeholder="usual"
          rightSection={<span aria-hidden="true">{units.pressure}</span>}
          rightSectionWidth={44}
          {...typed('tyre')}
          error={errors.tyre_kpa}
        />
        <TextInput
          label="Wind"
          placeholder="not known"
          rightSection={<span aria-hidden="true">{speedUnit(units)}</span>}
          rightSectionWidth={52}
          {...typed('wind')}
          error={errors.wind_mps}
        />
        <TextInput
          label="Wind from"
          placeholder="W or 250°"
          {...typed('wind_from')}
          error={errors.wind_from_deg && 'is a point of the compass or degrees'}
        />
      </div>
      <div className={classes.three}>
        <TextInput
          label="Keep back"
          rightSection="%"
          {...typed('reserve')}
          error={errors.reserve && '0 to 99 %'}
        />
        <TextInput
          label="How sure"
          rightSection="%"
          {...typed('probability')}
          error={errors.probability && '50 to 99.9 %'}
        />
        <TextInput
          label="Charged"
          rightSection="%"
          {...typed('start')}
          error={errors.start_energy_fraction && '1 to 100 %'}
        />
      </div>
    </>
  );
});
