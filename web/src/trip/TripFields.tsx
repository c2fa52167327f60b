import { Checkbox, Select, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { memo } from 'react';
import { sessionQuery, type Units } from '../api/queries';
import { fieldOf } from '../format/fields';
import { distanceText } from '../format/units';
import { PACK_USES, POLICIES, SURFACES } from '../format/words';
import classes from '../ui/Desk.module.css';
import { FieldInput } from '../ui/FieldInput';
import { say } from '../words/en/trip.ftl';
import type { TripForm } from './form';
import { Rest } from './Rest';
import { fails, PACK, packText, RIDDEN, riddenText, WEATHER, weatherText } from './restText';
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

/**
 * A trip: vehicle, pack and route, which matter for every question; the rest folded behind what it comes to in
 * words. Memoised: a slider beside it moves often.
 */
export const TripFields = memo(function TripFields(props: TripFieldsProps) {
  const { form, kit, units, errors, onChange } = props;
  const route = kit.routes.find((item) => item.id === form.route_id);
  const packs = Number(form.packs_count);
  const weather = useQuery(sessionQuery).data?.weather ?? 'none';
  const text = (name: 'packs_count' | 'laps') => ({
    value: form[name],
    onChange: (event: { currentTarget: { value: string } }) =>
      onChange({ [name]: event.currentTarget.value }),
  });
  const typed = (name: string) => ({
    field: fieldOf('trip', name),
    units,
    typed: form.typed[name] ?? '',
    onType: (value: string) => onChange({ typed: { ...form.typed, [name]: value } }),
    error: errors[name],
  });
  const sketched = (name: string) => ({
    field: fieldOf('leg', name),
    units,
    typed: form.sketch[name] ?? '',
    onType: (value: string) => onChange({ sketch: { ...form.sketch, [name]: value } }),
    error: errors[`legs.0.${name}`],
    withAsterisk: false,
  });
  return (
    <>
      <div className={classes.two}>
        <Select
          label={say('vehicle')}
          data={named(kit.vehicles)}
          value={form.vehicle_id || null}
          onChange={(value) => onChange({ vehicle_id: value ?? '' })}
          error={errors.vehicle_id}
        />
        <Select
          label={say('pack')}
          data={named(kit.packs)}
          value={form.pack_id || null}
          onChange={(value) => onChange({ pack_id: value ?? '' })}
          error={errors.pack_id ?? errors.pack}
        />
      </div>
      <Select
        label={say('route')}
        data={[
          ...kit.routes.map((item) => ({
            value: item.id,
            label: `${item.name}, ${distanceText(item.length_m, units)}`,
          })),
          { value: SKETCH, label: say('a-distance-sketched') },
        ]}
        value={form.route_id || SKETCH}
        onChange={(value) => onChange({ route_id: value === SKETCH ? '' : (value ?? '') })}
        error={errors.route_id ?? errors.legs ?? errors.route}
      />
      {!route && (
        <div className={classes.two}>
          <FieldInput {...sketched('length_m')} />
          <FieldInput {...sketched('climb_m')} />
          <Select
            label={say('surface')}
            data={[...SURFACES]}
            value={form.surface ?? 'smooth_paved'}
            onChange={(value) => onChange({ surface: value as TripForm['surface'] })}
          />
          <FieldInput {...sketched('stops')} />
        </div>
      )}
      {route?.kind === 'loop' ? (
        <TextInput
          label={say('laps')}
          description={say('leave-empty-for-as-many')}
          inputWrapperOrder={['label', 'input', 'description', 'error']}
          inputMode="numeric"
          {...text('laps')}
          error={errors.laps}
        />
      ) : (
        <Checkbox
          label={say('there-and-back-on-the')}
          checked={form.and_back}
          onChange={(event) => onChange({ and_back: event.currentTarget.checked })}
        />
      )}
      <Rest said={riddenText(form, kit, units)} open={fails(errors, RIDDEN)}>
        <div className={classes.two}>
          <Select
            label={say('rider')}
            data={[{ value: '', label: say('not-noted-choice') }, ...named(kit.riders)]}
            value={form.rider_id}
            onChange={(value) => onChange({ rider_id: value ?? '' })}
            error={errors.rider_id}
          />
          <Select
            label={say('ridden')}
            data={[...POLICIES]}
            value={form.policy}
            onChange={(value) => onChange({ policy: (value ?? 'fixed') as TripForm['policy'] })}
          />
          <FieldInput
            {...typed('target_mps')}
            placeholder={say('usual-for-its-kind')}
            disabled={form.policy === 'flat_out'}
          />
        </div>
        <FieldInput {...typed('known_consumption_wh_per_km')} />
        {route?.kind !== 'loop' && (
          <Checkbox
            label={say('start-from-the-other-end')}
            checked={form.reversed}
            onChange={(event) => onChange({ reversed: event.currentTarget.checked })}
          />
        )}
      </Rest>
      <Rest said={weatherText(form, units)} open={fails(errors, WEATHER)}>
        {weather !== 'none' && (
          <WeatherFill
            units={units}
            onFill={(filled) => onChange({ typed: { ...form.typed, ...filled } })}
          />
        )}
        <div className={classes.two}>
          <FieldInput {...typed('temp_c')} placeholder={say('not-known')} />
          <FieldInput {...typed('tyre_kpa')} placeholder={say('usual')} />
          <FieldInput {...typed('wind_mps')} placeholder={say('not-known')} />
          <FieldInput
            {...typed('wind_from_deg')}
            placeholder={say('w-or-250')}
            inputMode="text"
            error={errors.wind_from_deg && say('a-compass-point-such-as')}
          />
        </div>
      </Rest>
      <Rest said={packText(form, units)} open={fails(errors, PACK)}>
        <div className={classes.three}>
          <FieldInput {...typed('reserve')} />
          <FieldInput {...typed('probability')} />
          <FieldInput {...typed('start_energy_fraction')} />
        </div>
        <TextInput
          label={say('how-many-packs')}
          inputMode="numeric"
          {...text('packs_count')}
          error={errors.packs_count}
        />
        {packs > 1 && (
          <Select
            label={say('used')}
            data={[...PACK_USES]}
            value={form.packs_use}
            onChange={(value) =>
              onChange({ packs_use: (value ?? 'in_sequence') as TripForm['packs_use'] })
            }
          />
        )}
      </Rest>
    </>
  );
});
