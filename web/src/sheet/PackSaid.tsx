import { TextInput } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import type { Schemas } from '../api/client';
import { packSaidQuery } from '../api/queries';
import { number } from '../format/units';
import { CHEMISTRIES, labelOf } from '../format/words';
import classes from './Sheet.module.css';

type Understood = Schemas['PackSaidOut'];

interface PackSaidProps {
  onUnderstood: (values: Record<string, unknown>) => void;
}

/** A pack in a rider's own words; what was understood is shown, and fills the fields below. */
export function PackSaid({ onUnderstood }: PackSaidProps) {
  const [text, setText] = useState('');
  const [words] = useDebouncedValue(text.trim().slice(0, 200), 250);
  const asked = useQuery({ ...packSaidQuery(words), enabled: words !== '' });
  const found = words === '' ? undefined : asked.data;
  const tell = useRef(onUnderstood);
  tell.current = onUnderstood;
  useEffect(() => {
    if (found) tell.current(found.values);
  }, [found]);
  return (
    <div className={classes.said}>
      <TextInput
        label="The pack in your words"
        placeholder="52 V 24 Ah, 2.7 kWh, or 10s3p of 3.0 Ah cells"
        value={text}
        maxLength={200}
        onChange={(event) => setText(event.currentTarget.value)}
        error={asked.error?.message}
      />
      <p aria-live="polite">
        {found ? understoodText(found) : 'What it says fills the fields below.'}
      </p>
    </div>
  );
}

export function understoodText(found: Understood): string {
  if (Object.keys(found.values).length === 0) {
    return 'Limpet didn’t understand that. Write it like 52 V 24 Ah, or fill the fields below.';
  }
  const said = [
    `${found.series} cells in series${found.taken.includes('series') ? ' (taken)' : ''}`,
    `${number(found.rated_ah, 1)} Ah${found.taken.includes('rated_ah') ? ' (taken)' : ''}`,
    `${number(found.energy_wh, 0)} Wh`,
    `${labelOf(CHEMISTRIES, found.chemistry)}${found.taken.includes('chemistry') ? ' (taken)' : ''}`,
  ];
  const left = found.left.length > 0 ? ` Not understood: ${found.left.join(' ')}.` : '';
  return `Understood: ${said.join(', ')}.${left}`;
}
