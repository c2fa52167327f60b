import { Button, Checkbox } from '@mantine/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, type Schemas, unwrap } from '../api/client';
import { Refusal } from '../ui/Refusal';
import { say } from '../words/en/letin.ftl';
import type { Cut } from './choices';
import classes from './LetIn.module.css';

type Place = Schemas['PlaceIn'];

interface HomeCutProps {
  cut: Cut;
  /** The track as it is drawn, its segments apart: [latitude, longitude]. */
  path: number[][][];
  onCut: (changed: Partial<Cut>) => void;
}

/** How far round a home is left out [m]. */
const WITHIN = 300;
const HOME = ['imports', 'home'];

/** All round a saved home is left out of a track; a home is the place where one of them begins or ends. */
export function HomeCut({ cut, path, onCut }: HomeCutProps) {
  const queryClient = useQueryClient();
  const home = useQuery({
    queryKey: HOME,
    queryFn: async () => unwrap(await api.GET('/api/imports/home')) ?? null,
  });
  const keep = useMutation({
    mutationFn: async (place: Place | null) => {
      if (place === null) unwrap(await api.DELETE('/api/imports/home'));
      else unwrap(await api.PUT('/api/imports/home', { body: place }));
      return place;
    },
    onSuccess: (place) => {
      queryClient.setQueryData(HOME, place);
      onCut({ home: place });
    },
  });
  if (home.data === undefined) return home.error ? <Refusal error={home.error} /> : null;
  const [first, last] = [path[0]?.[0], path.at(-1)?.at(-1)];
  const saved = home.data;
  if (saved !== null) {
    return (
      <div className={classes.foot}>
        <Checkbox
          label={say('leave-home', { metres: saved.within_m })}
          checked={cut.home != null}
          onChange={(event) => onCut({ home: event.currentTarget.checked ? saved : null })}
        />
        <Button size="compact-sm" variant="subtle" onClick={() => keep.mutate(null)}>
          {say('forget-home')}
        </Button>
        <Refusal error={keep.error} />
      </div>
    );
  }
  // Where an end is cut off already, the line no longer shows where it was.
  if (first === undefined || last === undefined || cut.first_m || cut.last_m) return null;
  const place = ([latitude_deg = 0, longitude_deg = 0]: number[]) => ({
    latitude_deg,
    longitude_deg,
    within_m: WITHIN,
  });
  return (
    <div className={classes.foot}>
      <span className={classes.quiet}>{say('home-is')}</span>
      <Button size="compact-sm" onClick={() => keep.mutate(place(first))}>
        {say('home-begins')}
      </Button>
      <Button size="compact-sm" onClick={() => keep.mutate(place(last))}>
        {say('home-ends')}
      </Button>
      <Refusal error={keep.error} />
    </div>
  );
}
