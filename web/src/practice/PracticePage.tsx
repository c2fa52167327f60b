import { useMutation, useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { api, unwrap } from '../api/client';
import { practiceQuery, type Units } from '../api/queries';
import type { EntryBody } from '../entries/fields';
import type { Values } from '../format/fill';
import { distanceText } from '../format/units';
import { useUnits } from '../format/useUnits';
import { EntryPad } from '../ride/EntryPad';
import { rememberGauge } from '../ride/gauge';
import rideClasses from '../ride/Ride.module.css';
import { RideDialog } from '../ride/RideDialog';
import { describeEntry } from '../ride/RideFigures';
import { rideTheme, useRideTheme } from '../ride/rideTheme';
import { matterWords } from '../ride/shown';
import { useDo } from '../ride/useDo';
import type { Ride } from '../roadside/ride';
import { Trouble, Waiting } from '../ui/Page';
import { useTitle } from '../ui/useTitle';
import { say } from '../words/en/practice.ftl';
import { DisplayPanel } from './DisplayPanel';
import classes from './Practice.module.css';
import {
  displayAt,
  logOf,
  MOST_NOTED,
  noted,
  type Play,
  type Practice,
  readOf,
  ride,
  stop,
  truthAt,
} from './play';
import { Review } from './Review';
import { RoadStrip } from './RoadStrip';
import { usePlay } from './usePlay';

/** A made-up ride at thirty times the speed, to be logged like a real one; then the log beside the truth. */
export function PracticePage() {
  const units = useUnits();
  const practice = useQuery(practiceQuery);
  const [theme] = useRideTheme();
  const [attempt, setAttempt] = useState(1);
  useTitle(say('practice'));
  return (
    <div
      className={rideTheme(theme)}
      data-mantine-color-scheme={theme === 'dark' ? 'dark' : 'light'}
    >
      {practice.data ? (
        <Rehearsal
          key={attempt}
          attempt={attempt}
          practice={practice.data}
          units={units}
          onAgain={() => setAttempt((before) => before + 1)}
        />
      ) : (
        <main className={rideClasses.page} style={{ padding: 18 }}>
          {practice.error ? (
            <Trouble error={practice.error} onRetry={() => practice.refetch()} />
          ) : (
            <Waiting rows={4} height={80} />
          )}
          <Link to="/ride">{say('to-the-rides')}</Link>
        </main>
      )}
    </div>
  );
}

interface RehearsalProps {
  attempt: number;
  practice: Practice;
  units: Units;
  onAgain: () => void;
}

function Rehearsal({ attempt, practice, units, onAgain }: RehearsalProps) {
  const { doing, open, close } = useDo();
  const [play, setPlay] = usePlay(practice, doing === 'entry');
  const asked = useMutation({
    mutationFn: async (entries: EntryBody[]) =>
      unwrap(await api.POST('/api/practice/follow', { body: { entries } })),
  });
  const judged = useMutation({
    mutationFn: async (entries: EntryBody[]) =>
      unwrap(await api.POST('/api/practice/review', { body: { entries } })),
  });
  const shown = useMemo(() => asRide(practice, play, attempt), [practice, play, attempt]);
  const display = displayAt(practice, play);

  function take(id: string, body: EntryBody, readings: PracticeReadings) {
    const kind: PracticeReadings['kind'] =
      play.phase === 'over' ? 'end' : play.phase === 'before' ? 'start' : 'checkpoint';
    const entry = { id, body: { ...body, kind } as EntryBody, shown: { ...readings, kind } };
    const now = noted(play, entry);
    setPlay(now);
    if (kind === 'end') judged.mutate(logOf(now));
    else asked.mutate(now.entries.map((one) => one.body));
    return Promise.resolve();
  }

  if (judged.data || judged.isPending || judged.error) {
    return (
      <main className={rideClasses.page}>
        <Head />
        {judged.data ? (
          <Review
            practice={practice}
            play={play}
            review={judged.data}
            units={units}
            onAgain={onAgain}
          />
        ) : judged.error ? (
          <div className={classes.review}>
            <Trouble error={judged.error} onRetry={() => judged.mutate(logOf(play))} />
          </div>
        ) : (
          <div className={classes.review}>
            <Waiting rows={5} height={60} />
          </div>
        )}
      </main>
    );
  }
  if (play.phase === 'before' && play.entries.length === 0 && doing === null) {
    return (
      <main className={rideClasses.page}>
        <Head />
        <Intro
          practice={practice}
          units={units}
          onEntry={() => {
            rememberGauge(shown, { kind: 'bars', steps: practice.bars_v.length });
            open('entry');
          }}
          onRide={() => setPlay(ride(practice, play))}
        />
      </main>
    );
  }
  const last = readOf(play).at(-1);
  return (
    <main className={rideClasses.page}>
      <Head />
      <h1 className="visually-hidden">{practice.title}</h1>
      <Line play={play} units={units} asked={asked} />
      <DisplayPanel
        name={practice.vehicle.name}
        shown={display}
        bars={practice.bars_v.length}
        units={units}
      />
      <div className={classes.intro}>
        <RoadStrip practice={practice} play={play} />
        <p>{whereWords(practice, play, units)}</p>
        <p>
          {last
            ? say('last-describe-entry', { describe_entry: describeEntry(last.shown, null, units) })
            : say('nothing-noted-yet')}
        </p>
      </div>
      <Keys
        play={play}
        onEntry={() => open('entry')}
        onRide={() => setPlay(ride(practice, play))}
        onStop={() => setPlay(stop(play))}
        onTurn={() => setPlay({ ...play, turning: !play.turning })}
        onEnd={() => judged.mutate(logOf(play))}
      />
      {doing === 'entry' && (
        <RideDialog title={say('entry-the-ride-is-paused')} onClose={close}>
          <DisplayPanel
            name={practice.vehicle.name}
            shown={display}
            bars={practice.bars_v.length}
            units={units}
          />
          <EntryPad
            ride={shown}
            units={units}
            kind={play.phase === 'before' ? 'start' : 'checkpoint'}
            entry={null}
            keeper={{ nowS: () => play.clockS, note: take }}
            onClose={close}
          />
        </RideDialog>
      )}
    </main>
  );
}

type PracticeReadings = Parameters<typeof describeEntry>[0];

function Head() {
  return (
    <header className={rideClasses.head}>
      <Link to="/ride">{say('leave-the-practice')}</Link>
    </header>
  );
}

interface IntroProps {
  practice: Practice;
  units: Units;
  onEntry: () => void;
  onRide: () => void;
}

function Intro({ practice, units, onEntry, onRide }: IntroProps) {
  const end = practice.ways.at(-1)?.turn_m ?? 0;
  return (
    <div className={classes.intro}>
      <h1>{practice.title}</h1>
      <p>
        {say('a-rehearsal-on-skerrow-times', {
          pace: practice.pace,
          vehicle: practice.vehicle.name,
          series: practice.pack.series,
          rated_ah: practice.pack.rated_ah,
          cutoff_v: practice.pack.cutoff_v,
          end: distanceText(end, units),
        })}
      </p>
      <p>{say('ride-out-as-far-as')}</p>
      <div className={classes.keys}>
        <button type="button" className={rideClasses.action} onClick={onEntry}>
          {say('first-entry')}
          <small>{say('what-the-display-shows-standing')}</small>
        </button>
        <button type="button" className={rideClasses.action} onClick={onRide}>
          {say('ride')}
          <small>{say('without-one')}</small>
        </button>
      </div>
    </div>
  );
}

interface LineProps {
  play: Play;
  units: Units;
  asked: {
    data: { matter: { code: string; values: Values } } | undefined;
    error: Error | null;
  };
}

/** What Limpet would say by the log so far. */
function Line({ play, units, asked }: LineProps) {
  const { headline, under } =
    play.phase === 'over'
      ? {
          headline: say('it-stands'),
          under: say('let-the-pack-rest-read'),
        }
      : asked.error
        ? { headline: say('no-answer'), under: asked.error.message }
        : asked.data
          ? matterWords(
              asked.data.matter.code as Parameters<typeof matterWords>[0],
              asked.data.matter.values,
              units,
            )
          : matterWords('read_volts', {}, units);
  return (
    <div role="status">
      <div className={rideClasses.now}>
        <b>{headline}</b>
        <span>{under}</span>
      </div>
    </div>
  );
}

/** Where it is, as its rider sees it. */
function whereWords(practice: Practice, play: Play, units: Units): string {
  const { distance_m } = truthAt(practice, play);
  const minutes = Math.floor(play.clockS / 60);
  if (play.phase === 'over') {
    const home = play.way !== null && practice.ways[play.way]?.home;
    return home ? say('home-after-min', { minutes }) : say('the-drive-cut-off-after', { minutes });
  }
  if (play.way !== null) {
    const turned = practice.ways[play.way]?.turn_m ?? 0;
    const left = Math.max(2 * turned - distance_m, 0);
    return say('min-on-the-way-home', { minutes, left: distanceText(left, units) });
  }
  const passed = practice.ways.filter((way) => way.turn_m <= distance_m).at(-1)?.turn_m ?? 0;
  const stone =
    passed > 0
      ? say('past-the-stone-at', { passed: distanceText(passed, units) })
      : say('before-the-first-stone');
  return say('min-on-the-way-out', {
    minutes,
    stone,
    turning: play.turning ? say('it-turns-at-the-next') : '',
  });
}

interface KeysProps {
  play: Play;
  onEntry: () => void;
  onRide: () => void;
  onStop: () => void;
  onTurn: () => void;
  onEnd: () => void;
}

function Keys({ play, onEntry, onRide, onStop, onTurn, onEnd }: KeysProps) {
  const over = play.phase === 'over';
  const full = readOf(play).length >= MOST_NOTED || play.entries.length >= MOST_NOTED;
  return (
    <div className={rideClasses.pad}>
      <button
        type="button"
        className={`${rideClasses.action} ${rideClasses.big}`}
        disabled={full}
        onClick={onEntry}
      >
        {over ? say('last-entry') : say('entry')}
        <small>{full ? say('no-more-are-taken') : say('volts-trip-gauge')}</small>
      </button>
      <button
        type="button"
        className={`${rideClasses.action} ${rideClasses.beside}`}
        onClick={onEnd}
        disabled={play.phase === 'before'}
      >
        {say('end')}
        <small>{over ? say('as-it-is') : say('here')}</small>
      </button>
      {!over && (
        <>
          <button
            type="button"
            className={`${rideClasses.action} ${rideClasses.half}`}
            onClick={play.phase === 'moving' ? onStop : onRide}
          >
            {play.phase === 'moving'
              ? say('stop')
              : play.phase === 'before'
                ? say('ride')
                : say('go-on')}
            <small>{play.phase === 'moving' ? say('rolling') : say('standing')}</small>
          </button>
          <button
            type="button"
            className={`${rideClasses.action} ${rideClasses.half}`}
            disabled={play.way !== null || play.phase === 'before'}
            aria-pressed={play.turning}
            onClick={onTurn}
          >
            {say('turn')}
            <small>
              {play.way !== null
                ? say('done')
                : play.turning
                  ? say('at-the-next-stone')
                  : say('not-yet')}
            </small>
          </button>
        </>
      )}
    </div>
  );
}

/** The practice ride as the pad knows rides: what was read so far, and what the pack can show. */
function asRide(practice: Practice, play: Play, attempt: number): Ride {
  return {
    id: `practice-${attempt}`,
    title: practice.title,
    started_at: null,
    state: 'riding',
    vehicle_name: `practice ${practice.vehicle.name}`,
    pack_name: practice.pack.name ?? '',
    rider_name: '',
    lap_length_m: null,
    full_v: practice.pack.full_v,
    cutoff_v: practice.pack.cutoff_v,
    most_v: null,
    entries: readOf(play).map((one) => ({ ...one.shown, id: one.id, where: 'stored' as const })),
    detail: null,
    plan: null,
    toldAt: 0,
    revision: 0,
    follow: null,
    table: null,
    followedAt: 0,
    previous: null,
    ahead: null,
    unsent: [],
    refused: [],
  };
}
