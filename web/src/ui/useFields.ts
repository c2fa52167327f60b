import { useForm } from '@mantine/form';
import { useCallback, useEffect, useState } from 'react';
import { ApiError } from '../api/client';
import type { Units } from '../api/queries';
import type { FormField, TypedFields } from '../format/fields';

/** Numbers are typed as texts, so that every field takes a unit; they stand together under `typed`. */
export interface WithTyped {
  typed: TypedFields;
}

/**
 * The one adapter between a form and the core's fields: what is typed, what the server refused beside
 * its field, and what it refused otherwise. An error goes when its field is typed into again.
 */
export function useFields<T extends object>(start: T | (() => T)) {
  const [initialValues] = useState(start);
  const form = useForm<T>({ mode: 'controlled', initialValues, clearInputErrorOnChange: false });
  const [trouble, setTrouble] = useState<Error | null>(null);
  const [refusals, setRefusals] = useState(0);
  // In a long form the field that was refused may be out of sight: it is brought back, and typed into.
  useEffect(() => {
    if (refusals > 0) firstRefused()?.focus();
  }, [refusals]);
  const { setValues, setErrors, clearErrors, clearFieldError } = form;

  const change = useCallback(
    (changed: Partial<T>) => setValues((before) => ({ ...before, ...changed })),
    [setValues],
  );
  /** What a mutation failed with: `onError`. */
  const refuse = useCallback(
    (error: Error) => {
      const fields = error instanceof ApiError ? error.fields : {};
      setErrors(fields);
      setTrouble(Object.keys(fields).length === 0 ? error : null);
      setRefusals((before) => before + 1);
    },
    [setErrors],
  );
  /** Before it is sent again: `onMutate`. */
  const settle = useCallback(() => {
    clearErrors();
    setTrouble(null);
  }, [clearErrors]);

  const errors = form.errors as Record<string, string>;
  return {
    values: form.values,
    errors,
    trouble,
    change,
    refuse,
    settle,
    reset: form.reset,
    /** A text field, or a choice, of a name. */
    field: (name: keyof T & string) => {
      const input = form.getInputProps(name);
      return {
        value: input.value,
        error: errors[name],
        onChange: (changed: unknown) => {
          input.onChange(changed);
          clearFieldError(name);
        },
      };
    },
    /** A number that the core describes, as `FieldInput` takes it. */
    number: (field: FormField, units: Units) => {
      const input = form.getInputProps(`typed.${field.name}`);
      return {
        field,
        units,
        typed: (input.value as string | undefined) ?? '',
        error: errors[field.name],
        onType: (text: string) => {
          input.onChange(text);
          clearFieldError(field.name);
        },
      };
    },
  };
}

/** The first field that shows a refusal, in the dialog that lies on top where there is one. */
function firstRefused(): HTMLElement | null {
  const dialog = document.querySelector<HTMLElement>('[role="dialog"]');
  return (dialog ?? document).querySelector<HTMLElement>('form [aria-invalid="true"]');
}

export type Fields<T extends object> = ReturnType<typeof useFields<T>>;
