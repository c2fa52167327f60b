import type { Units } from '../api/queries';
import type { FormField } from '../format/fields';
import { FieldInput } from '../ui/FieldInput';
import type { Typed } from './fields';

interface EntryFieldsProps {
  fields: FormField[];
  typed: Typed;
  units: Units;
  errors: Record<string, string>;
  size?: 'sm' | 'lg';
  onType: (name: string, text: string) => void;
}

/** The fields of an entry; each may be skipped, each takes a typed unit. */
export function EntryFields({
  fields,
  typed,
  units,
  errors,
  size = 'sm',
  onType,
}: EntryFieldsProps) {
  return (
    <>
      {fields.map((field) => (
        <FieldInput
          key={field.name}
          field={field}
          units={units}
          size={size}
          inputWrapperOrder={['label', 'description', 'input', 'error']}
          typed={typed[field.name] ?? ''}
          onType={(text) => onType(field.name, text)}
          error={errors[field.name]}
        />
      ))}
    </>
  );
}
