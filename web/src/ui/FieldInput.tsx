import { TextInput, type TextInputProps } from '@mantine/core';
import type { Units } from '../api/queries';
import { asksOf, exampleOf, type FormField, unitOf } from '../format/fields';

interface FieldInputProps extends Omit<TextInputProps, 'value' | 'onChange'> {
  field: FormField;
  units: Units;
  typed: string;
  onType: (text: string) => void;
}

/** A field for a number: its name, its unit and its hint are the core's; any other unit may be typed. */
export function FieldInput({ field, units, typed, onType, ...rest }: FieldInputProps) {
  const unit = unitOf(field, units);
  return (
    <TextInput
      label={field.label}
      description={asksOf(field, units) || undefined}
      inputWrapperOrder={['label', 'input', 'description', 'error']}
      placeholder={exampleOf(field, units) || undefined}
      rightSection={unit ? <span aria-hidden="true">{unit}</span> : undefined}
      rightSectionWidth={unit.length > 3 ? 58 : 46}
      inputMode="decimal"
      autoComplete="off"
      withAsterisk={field.needed}
      {...rest}
      value={typed}
      onChange={(event) => onType(event.currentTarget.value)}
    />
  );
}
