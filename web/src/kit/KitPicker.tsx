import { Select, TextInput } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import type { Pack, Vehicle } from '../api/queries';
import { packSaidQuery } from '../api/queries';
import { VEHICLE_KINDS } from '../format/words';
import { understoodText } from '../sheet/PackSaid';
import { say } from '../words/en/kit.ftl';
import classes from './Kit.module.css';
import { type KitFields, NEW } from './kitFields';

interface KitPickerProps {
  vehicles: Vehicle[];
  packs: Pack[];
  chosen: KitFields;
  errors: Record<string, string>;
  onChange: (changed: Partial<KitFields>) => void;
}

/** Vehicle and pack out of the kit, or by what a rider knows of them: the kit is made from it. */
export function KitPicker({ vehicles, packs, chosen, errors, onChange }: KitPickerProps) {
  const [words] = useDebouncedValue(chosen.pack_words.trim().slice(0, 200), 250);
  const said = useQuery({ ...packSaidQuery(words), enabled: words !== '' }).data;
  const list = (items: Array<{ id: string; name: string }>, another: string) => [
    ...items.map((item) => ({ value: item.id, label: item.name })),
    { value: NEW, label: another },
  ];
  return (
    <>
      {vehicles.length > 0 && (
        <Select
          label={say('vehicle')}
          data={list(vehicles, say('another-vehicle'))}
          value={chosen.vehicle_id}
          onChange={(value) => onChange({ vehicle_id: value ?? NEW })}
          error={errors.vehicle_id}
          allowDeselect={false}
        />
      )}
      {chosen.vehicle_id === NEW && (
        <div className={classes.two}>
          <Select
            label={say('what-you-ride')}
            data={VEHICLE_KINDS}
            value={chosen.vehicle_kind}
            onChange={(value) => onChange({ vehicle_kind: value ?? 'other' })}
            error={errors.kind}
            allowDeselect={false}
          />
          <TextInput
            label={say('its-name')}
            placeholder={say('as-you-call-it')}
            maxLength={100}
            value={chosen.vehicle_name}
            onChange={(event) => onChange({ vehicle_name: event.currentTarget.value })}
            error={errors.vehicle_name}
            withAsterisk
          />
        </div>
      )}
      {packs.length > 0 && (
        <Select
          label={say('pack')}
          data={list(packs, say('another-pack'))}
          value={chosen.pack_id}
          onChange={(value) => onChange({ pack_id: value ?? NEW })}
          error={errors.pack_id}
          allowDeselect={false}
        />
      )}
      {chosen.pack_id === NEW && (
        <div className={classes.two}>
          <TextInput
            label={say('the-packs-name')}
            placeholder={say('as-you-call-it')}
            maxLength={100}
            value={chosen.pack_name}
            onChange={(event) => onChange({ pack_name: event.currentTarget.value })}
            error={errors.pack_name}
            withAsterisk
          />
          <TextInput
            label={say('what-its-label-says')}
            placeholder={say('label-such-as')}
            description={said && words !== '' ? understoodText(said) : undefined}
            inputWrapperOrder={['label', 'input', 'description', 'error']}
            maxLength={200}
            value={chosen.pack_words}
            onChange={(event) => onChange({ pack_words: event.currentTarget.value })}
          />
        </div>
      )}
    </>
  );
}

/** What is missing of new pieces, before anything is sent. */
export function kitFaults(chosen: KitFields): Record<string, string> {
  const faults: Record<string, string> = {};
  if (chosen.vehicle_id === NEW && chosen.vehicle_name.trim() === '') {
    faults.vehicle_name = say('give-it-a-name');
  }
  if (chosen.pack_id === NEW && chosen.pack_name.trim() === '') {
    faults.pack_name = say('give-it-a-name');
  }
  return faults;
}
