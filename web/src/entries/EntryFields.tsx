import type { Units } from '../api/queries';
import type { FormField } from '../format/fields';
import { FieldInput } from '../ui/FieldInput';
import type { Fields, WithTyped } from '../ui/useFields';

interface EntryFieldsProps {
  fields: FormField[];
  form: Pick<Fields<WithTyped>, 'number'>;
  units: Units;
  size?: 'sm' | 'lg';
}

/** The fields of an entry; each may be skipped, each takes a typed unit. */
export function EntryFields({ fields, form, units, size = 'sm' }: EntryFieldsProps) {
  return (
    <>
      {fields.map((field) => (
        <FieldInput
          key={field.name}
          size={size}
          inputWrapperOrder={['label', 'description', 'input', 'error']}
          {...form.number(field, units)}
        />
      ))}
    </>
  );
}
