import { Spotlight, type SpotlightActionData } from '@mantine/spotlight';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { testsQuery } from '../api/queries';
import { day } from '../format/units';
import { PLACES, TOOLS } from './places';

/** Every place and every test by name, from anywhere. */
export function Palette() {
  const navigate = useNavigate();
  const [asked, setAsked] = useState(false);
  const tests = useQuery({ ...testsQuery, enabled: asked });
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
    onClick: () => navigate(test.state === 'riding' ? `/ride/${test.id}` : `/tests/${test.id}`),
  }));
  return (
    <Spotlight
      actions={[...places, ...found]}
      shortcut="mod + K"
      limit={9}
      onSpotlightOpen={() => setAsked(true)}
      nothingFound="Nothing by that name"
      searchProps={{ placeholder: 'A place or a test', 'aria-label': 'Find a place or a test' }}
    />
  );
}
