import { TextInput } from '@mantine/core';
import type { Units } from '../api/queries';
import type { EntryField, FieldName, Typed } from './fields';

interface EntryFieldsProps {
  fields: EntryField[];
  typed: Typed;
  units: Units;
  errors: Record<string, string>;
  size?: 'sm' | 'lg';
  onType: (name: FieldName, text: string) => void;
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
        <TextInput
          key={field.name}
          label={field.label}
          description={field.hint}
          inputMode="decimal"
          autoComplete="off"
          size={size}
          value={typed[field.name] ?? ''}
          onChange={(event) => onType(field.name, event.currentTarget.value)}
          error={errors[field.name]}
          rightSection={<span aria-hidden="true">{field.unit(units)}</span>}
          rightSectionWidth={46}
        />
      ))}
    </>
  );
}
