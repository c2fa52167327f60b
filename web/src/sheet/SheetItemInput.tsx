import { Select, TagsInput, Textarea, TextInput } from '@mantine/core';
import { DateTimePicker } from '@mantine/dates';
import { say } from '../words/en/sheet.ftl';
import '@mantine/dates/styles.css';
import type { Units } from '../api/queries';
import { limpHint } from '../format/limp';
import { choicesOf } from '../format/words';
import { FieldInput } from '../ui/FieldInput';
import type { SheetItem } from './sheet';

interface SheetItemInputProps {
  item: SheetItem;
  typed: string | string[];
  error: string | undefined;
  units: Units;
  onType: (typed: string | string[]) => void;
}

const NOT_SAID = { value: '', label: say('not-noted-choice') };
const YES_NO = [
  NOT_SAID,
  { value: 'yes', label: say('yes-choice') },
  { value: 'no', label: say('no') },
];

/** One field of a sheet, by its kind. */
export function SheetItemInput({ item, typed, error, units, onType }: SheetItemInputProps) {
  const common = {
    label: item.label,
    description: item.asks || undefined,
    inputWrapperOrder: ['label', 'input', 'description', 'error'] as Array<
      'label' | 'input' | 'description' | 'error'
    >,
    error,
    withAsterisk: item.needed,
  };
  if (item.kind === 'tags' || Array.isArray(typed)) {
    return (
      <TagsInput
        {...common}
        value={Array.isArray(typed) ? typed : []}
        maxTags={12}
        onChange={onType}
        placeholder={say('a-word-and-enter')}
      />
    );
  }
  if (item.kind === 'number' && item.number) {
    return (
      <FieldInput field={item.number} units={units} typed={typed} error={error} onType={onType} />
    );
  }
  if (item.kind === 'choice' || item.kind === 'flag') {
    const data = item.kind === 'flag' ? YES_NO : choicesOf(item.choices);
    return (
      <Select
        {...common}
        data={item.needed || item.kind === 'flag' ? data : [NOT_SAID, ...data]}
        value={typed}
        allowDeselect={false}
        onChange={(value) => onType(value ?? '')}
      />
    );
  }
  if (item.kind === 'moment') {
    // As it was noted, in the zone of the ride: the offset stays what it was.
    const offset = typed.slice(19) || '';
    return (
      <DateTimePicker
        {...common}
        value={typed ? typed.slice(0, 19).replace('T', ' ') : null}
        valueFormat="D MMM YYYY HH:mm"
        clearable
        onChange={(value) => onType(value ? `${value.replace(' ', 'T')}${offset}` : '')}
      />
    );
  }
  if (item.kind === 'lines') {
    return (
      <Textarea
        {...common}
        autosize
        minRows={2}
        value={typed}
        onChange={(event) => onType(event.currentTarget.value)}
      />
    );
  }
  return (
    <TextInput
      {...common}
      description={item.kind === 'steps' ? limpHint(units) : common.description}
      inputMode={item.kind === 'whole' ? 'numeric' : undefined}
      value={typed}
      onChange={(event) => onType(event.currentTarget.value)}
    />
  );
}
