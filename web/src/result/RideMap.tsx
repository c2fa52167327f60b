import { Checkbox } from '@mantine/core';
import { useInViewport } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import { type ComponentType, lazy, Suspense, useEffect, useMemo, useState } from 'react';
import type { Span, Strip, TestDetail, Units } from '../api/queries';
import { sessionQuery } from '../api/queries';
import { consumptionText, distanceText, number } from '../format/units';
import { KIND_WORDS } from '../format/words';
import type { GroundMapProps, Pin } from '../ground/GroundMap';
import { limitsOf } from '../ground/runs';
import { eventText } from '../tideline/labels';
import { say } from '../words/en/result.ftl';
import classes from './Result.module.css';
import { TrackMap } from './TrackMap';

// A large part: it is fetched where a map is seen, and kept for no ride without a signal.
const GroundMap = lazy<ComponentType<GroundMapProps>>(() =>
  import('../ground/GroundMap').catch(() => ({ default: NoMap })),
);

/** Where the map cannot be fetched, as without a signal. */
function NoMap({ onFault }: { onFault: () => void }) {
  useEffect(() => onFault(), [onFault]);
  return null;
}

interface RideMapProps {
  test: TestDetail;
  path: NonNullable<TestDetail['path']>;
  strip: Strip;
  units: Units;
  cursorM: number | null;
  span: Span | null;
  onCursor: (metres: number | null) => void;
}

/** The ride on the ground; where nothing draws a map, and on paper, as a plain line. */
export function RideMap({ test, path, strip, units, cursorM, span, onCursor }: RideMapProps) {
  const { ref, inViewport } = useInViewport<HTMLDivElement>();
  const [seen, setSeen] = useState(false);
  const [fault, setFault] = useState(false);
  const [far, setFar] = useState(false);
  const session = useQuery(sessionQuery).data;
  // A session that was remembered before there were tiles names none.
  const address = session?.tiles ?? '';
  const credit = session?.tiles_credit ?? '';
  const tiles = useMemo(() => ({ address, credit }), [address, credit]);
  const origin = useMemo(
    () =>
      path.latitude_deg == null || path.longitude_deg == null
        ? null
        : { latitude_deg: path.latitude_deg, longitude_deg: path.longitude_deg },
    [path],
  );
  const pins = useMemo(() => pinsOf(strip, test, units), [strip, test, units]);
  const plan = test.result?.plan_on?.distance_m ?? null;
  if (inViewport && !seen) setSeen(true);
  const limits = limitsOf(path.wh_per_km);
  const plain = (
    <TrackMap path={path} units={units} cursorM={cursorM} span={span} onCursor={onCursor} />
  );
  const mapped = origin !== null && !fault && session !== undefined;
  return (
    <figure className={classes.map} ref={ref}>
      {mapped && seen ? (
        <>
          <div className="no-print">
            <Suspense fallback={plain}>
              <GroundMap
                path={path}
                origin={origin}
                pins={pins}
                units={units}
                cursorM={cursorM}
                span={span}
                reachM={far && plan !== null ? plan / 2 : null}
                tiles={tiles}
                label={say('map-of-the-ride', {
                  at: distanceText(path.distance_m.at(-1) ?? 0, units),
                })}
                onCursor={onCursor}
                onFault={() => setFault(true)}
              />
            </Suspense>
          </div>
          <div className={classes.onPaper}>{plain}</div>
        </>
      ) : (
        plain
      )}
      <figcaption className={classes.note}>
        {limits.length > 0
          ? say('the-route-ridden-from-or', {
              limits: consumptionText(limits[0] ?? 0, units),
              at: consumptionText(limits.at(-1) ?? 0, units),
            })
          : say('the-route-ridden-north-is')}{' '}
        {mapped && say('out-and-home-are-drawn')}
      </figcaption>
      {mapped && plan !== null && (
        <Checkbox
          className="no-print"
          mt={4}
          label={say('show-how-far-you-would', { plan: distanceText(plan / 2, units) })}
          checked={far}
          onChange={(event) => setFar(event.currentTarget.checked)}
        />
      )}
    </figure>
  );
}

/** What stands on the map: entries, events, photos, the turn and the two ends. */
export function pinsOf(strip: Strip, test: Pick<TestDetail, 'entries'>, units: Units): Pin[] {
  const photos = new Set(
    test.entries.filter((entry) => entry.photo != null).map((entry) => entry.time_s),
  );
  return strip.marks
    .filter((mark) => mark.kind !== 'settle')
    .map((mark) => {
      const kind = photos.has(mark.time_s) ? 'photo' : kindOf(mark.kind);
      const words = mark.kind === 'event' ? eventText(mark) : KIND_WORDS[mark.kind];
      const volts = mark.voltage_v == null ? '' : `, ${number(mark.voltage_v, 1)} V`;
      return {
        key: `${mark.time_s} ${mark.kind}`,
        kind,
        text: say('words-at-distance-m-volts', {
          words,
          distance_m: distanceText(mark.distance_m, units),
          volts,
        }),
        distance_m: mark.distance_m,
      };
    });
}

function kindOf(kind: string): Pin['kind'] {
  return kind === 'start' || kind === 'end' || kind === 'turn' || kind === 'event' ? kind : 'entry';
}
