import { TextInput } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import type { Schemas } from '../api/client';
import { packSaidQuery } from '../api/queries';
import { number } from '../format/units';
import { CHEMISTRIES, labelOf } from '../format/words';
import { say } from '../words/en/sheet.ftl';
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
        label={say('the-pack-in-your-words')}
        placeholder={say('label-such-as')}
        value={text}
        maxLength={200}
        onChange={(event) => setText(event.currentTarget.value)}
        error={asked.error?.message}
      />
      <p aria-live="polite">{found ? understoodText(found) : say('what-it-says-fills-the')}</p>
    </div>
  );
}

export function understoodText(found: Understood): string {
  if (Object.keys(found.values).length === 0) {
    return say('limpet-didnt-understand-that-write');
  }
  const said = [
    say('cells-in-series', {
      series: found.series,
      includes: found.taken.includes('series') ? say('taken') : '',
    }),
    `${number(found.rated_ah, 1)} Ah${found.taken.includes('rated_ah') ? say('taken') : ''}`,
    `${number(found.energy_wh, 0)} Wh`,
    `${labelOf(CHEMISTRIES, found.chemistry)}${found.taken.includes('chemistry') ? say('taken') : ''}`,
  ];
  const left =
    found.left.length > 0 ? say('not-understood-left', { left: found.left.join(' ') }) : '';
  return say('understood-said-left', { said: said.join(', '), left });
}
