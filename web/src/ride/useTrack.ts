import { useLiveQuery } from 'dexie-react-hooks';
import { useEffect, useState } from 'react';
import { remember, remembered } from '../device/remembered';
import type { Ride } from '../roadside/ride';
import { store } from '../roadside/store';
import { comesBack, pointOf, recordPoint } from '../roadside/track';
import { say } from '../words/en/ride.ftl';

/** Faster than a walk: whoever rides this fast looks at the road [m/s]. */
const WALKING_MPS = 2.2;
/** An older fix does not say whether it moves now [ms]. */
const FRESH_MS = 15_000;

export interface Tracking {
  on: boolean;
  turn: (on: boolean) => void;
  /** Why there is no position; empty while there is. */
  trouble: string;
  moving: boolean;
  /** How far it has come by its own fixes [m]; null where it records none. */
  ridden_m: number | null;
  /** It has been further from its start than it is now, by more than a bend. */
  comesBack: boolean;
}

const isSwitch = (value: unknown): value is boolean => typeof value === 'boolean';

/** Records this device's own position into a ride, while that is wanted and the page is open. */
export function useTrack(ride: Ride): Tracking {
  const key = `limpet-track-${ride.id}`;
  const [on, setOn] = useState(() => remembered(key, isSwitch) ?? false);
  const [trouble, setTrouble] = useState('');
  const [moving, setMoving] = useState(false);
  const wanted = on && ride.state === 'riding' && ride.started_at !== null;
  const { id, started_at } = ride;
  const track = useLiveQuery(() => store.tracks.get(id), [id]);
  useEffect(() => {
    if (!wanted || started_at === null) return;
    if (!('geolocation' in navigator)) {
      setTrouble(say('the-browser-gives-no-position'));
      return;
    }
    let still: ReturnType<typeof setTimeout> | undefined;
    const watch = navigator.geolocation.watchPosition(
      (position) => {
        setTrouble('');
        const point = pointOf(position, started_at);
        setMoving((point.speed_mps ?? 0) > WALKING_MPS);
        clearTimeout(still);
        still = setTimeout(() => setMoving(false), FRESH_MS);
        recordPoint(id, point, position.coords.accuracy).catch(() =>
          setTrouble(say('this-device-couldnt-save-the')),
        );
      },
      (error) =>
        setTrouble(
          error.code === error.PERMISSION_DENIED
            ? say('position-is-blocked-allow-it')
            : say('no-position-just-now-still'),
        ),
      { enableHighAccuracy: true, maximumAge: 2000, timeout: 30_000 },
    );
    return () => {
      clearTimeout(still);
      setMoving(false);
      navigator.geolocation.clearWatch(watch);
    };
  }, [wanted, id, started_at]);
  return {
    on,
    turn: (next) => {
      setOn(next);
      setTrouble('');
      remember(key, next);
    },
    trouble: wanted ? trouble : '',
    moving: wanted && moving,
    ridden_m: on ? (track?.metres ?? null) : null,
    comesBack: on && track !== undefined && comesBack(track),
  };
}
