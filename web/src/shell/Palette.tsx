import { useDebouncedValue } from '@mantine/hooks';
import '@mantine/spotlight/styles.css';
import { Spotlight, type SpotlightActionData, spotlight } from '@mantine/spotlight';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { findQuery } from '../api/queries';
import { day } from '../format/units';
import { PLACES, TOOLS } from '../places/places';
import { say } from '../words/en/shell.ftl';

interface PaletteProps {
  /** How often it was asked for. */
  asked: number;
  onReady: (ready: boolean) => void;
}

/** Every place and every test by name, from anywhere. */
export function Palette({ asked: times, onReady }: PaletteProps) {
  const navigate = useNavigate();
  const [asked, setAsked] = useState(false);
  const [typed, setTyped] = useState('');
  const [words] = useDebouncedValue(typed.slice(0, 100), 150);
  const tests = useQuery({ ...findQuery(words), enabled: asked });
  useEffect(() => {
    if (times > 0) spotlight.open();
    onReady(true);
  }, [times, onReady]);
  const places: SpotlightActionData[] = [...PLACES, ...TOOLS].map((place) => ({
    id: place.path,
    label: place.label,
    description: place.about,
    onClick: () => navigate(place.path),
  }));
  const found: SpotlightActionData[] = (tests.data ?? []).map((test) => ({
    id: test.id,
    label: test.title,
    description: `${test.vehicle_name} · ${day(test.started_at)}`,
    // Found by the server in more than the label; the palette must not sort it out again.
    keywords: words,
    onClick: () => navigate(test.state === 'riding' ? `/ride/${test.id}` : `/tests/${test.id}`),
  }));
  return (
    <Spotlight
      actions={[...places, ...found]}
      // The shell has the key, and loads this at its first press.
      shortcut={null}
      limit={9}
      query={typed}
      onQueryChange={setTyped}
      onSpotlightOpen={() => setAsked(true)}
      nothingFound={say('nothing-by-that-name')}
      attributes={{ content: { 'aria-label': 'Find' } }}
      searchProps={{
        placeholder: say('a-place-or-a-test'),
        'aria-label': say('find-a-place-or-a'),
      }}
    />
  );
}
