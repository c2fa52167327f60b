import { type ReactNode, useMemo, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import core from '../api/core.json';
import type { Units } from '../api/queries';
import type { EntryBody } from '../entries/fields';
import { useUnits } from '../format/useUnits';
import { noteEntry, notePhoto, removeEntry, rideAgain } from '../roadside/acts';
import { readingsOf } from '../roadside/entry';
import { scaledJpeg } from '../roadside/picture';
import { type Ride, saidIn } from '../roadside/ride';
import { notKeptWords } from '../roadside/room';
import { useFollow } from '../roadside/useFollow';
import { useRide } from '../roadside/useRide';
import { useLink } from '../roadside/useSending';
import { sayRemoved, sayTrouble } from '../ui/notes';
import { Trouble, Waiting } from '../ui/Page';
import { useTitle } from '../ui/useTitle';
import { say } from '../words/en/ride.ftl';
import { EndSheet } from './EndSheet';
import { EntryPad } from './EntryPad';
import { EventSheet } from './EventSheet';
import { NowLine } from './NowLine';
import { NowSheet } from './NowSheet';
import { PrepareSheet, preparedOf } from './PrepareSheet';
import classes from './Ride.module.css';
import { RideDialog } from './RideDialog';
import { RideFigures, wordOf } from './RideFigures';
import { RideMenu } from './RideMenu';
import { EndedPad, RidePad } from './RidePad';
import { RideStrip } from './RideStrip';
import { rideTheme, useRideSwitch, useRideTheme } from './rideTheme';
import { shownOf } from './shown';
import { asksTurned } from './turned';
import { LINK_WORDS, UnsentSheet } from './UnsentSheet';
import { useAlerts } from './useAlerts';
import { useClock } from './useClock';
import { type Doing, useDo } from './useDo';
import { useScreenOn } from './useScreenOn';
import { sinceStart } from './useTime';
import { useTop } from './useTop';
import { useTrack } from './useTrack';

/** The roadside: one line that matters, the strip, and five big actions. */
export function RidePage() {
  const { testId = '' } = useParams();
  const units = useUnits();
  const { ride, pending, error } = useRide(testId);
  const [theme] = useRideTheme();
  useFollow(ride);
  useTitle(ride?.title ?? say('ride'));
  return (
    <div
      className={rideTheme(theme)}
      data-mantine-color-scheme={theme === 'dark' ? 'dark' : 'light'}
    >
      {ride ? (
        <Riding ride={ride} units={units} />
      ) : (
        <main className={classes.page} style={{ padding: 18 }}>
          {pending ? (
            <Waiting rows={4} height={80} />
          ) : (
            <Trouble error={error ?? new Error(say('this-ride-is-not-on'))} />
          )}
          <Link to="/ride">{say('to-the-rides')}</Link>
        </main>
      )}
    </div>
  );
}

/** The device keeps what is done here; where it cannot, nothing was done, and that is said. */
function heard(done: Promise<unknown>): void {
  done.catch((error: unknown) => sayTrouble(notKeptWords(error)));
}

function Riding({ ride, units }: { ride: Ride; units: Units }) {
  const navigate = useNavigate();
  const link = useLink();
  const { doing, entryId, open, close } = useDo();
  useTop(ride.entries.length, doing !== null);
  const tracking = useTrack(ride);
  const [spoken, setSpoken] = useRideSwitch('spoken');
  const [awake, setAwake] = useRideSwitch('awake');
  const { ridden_m } = tracking;
  // Moving draws takes a while: once for each thing that is known, not for each drawing of the page.
  const shown = useMemo(() => shownOf(ride, units, ridden_m), [ride, units, ridden_m]);
  useAlerts(shown, ride.entries.length, spoken);
  /** After how many entries the rider said that the turn is still to come. */
  const [notYet, setNotYet] = useState<number | null>(null);
  const clock = useClock();
  useScreenOn(awake && ride.state === 'riding');
  const [theme, setTheme] = useRideTheme();
  const edited = entryId === null ? null : (ride.entries.find((one) => one.id === entryId) ?? null);

  async function tap(kind: 'lap' | 'stop' | 'resume', laps?: number) {
    const id = crypto.randomUUID();
    const body: EntryBody = {
      kind,
      time_s: sinceStart(ride.started_at),
      ...(laps === undefined ? {} : { laps }),
    };
    await noteEntry(ride.id, id, body, readingsOf(body, units));
  }

  async function turned() {
    const id = crypto.randomUUID();
    const body: EntryBody = { kind: 'turn', time_s: sinceStart(ride.started_at) };
    await noteEntry(ride.id, id, body, readingsOf(body, units));
  }

  async function photo(picture: File) {
    const time_s = sinceStart(ride.started_at);
    const jpeg = await scaledJpeg(picture);
    const kind = ride.entries.length === 0 ? 'start' : 'checkpoint';
    await notePhoto(ride.id, crypto.randomUUID(), jpeg, crypto.randomUUID(), { kind, time_s });
  }

  async function remove(id: string) {
    const entry = ride.entries.find((one) => one.id === id);
    if (!entry) return;
    const back = await removeEntry(ride.id, id, saidIn(entry));
    sayRemoved(say('the-entry-word-of', { word_of: wordOf(entry) }), back);
  }

  /** What looks odd was looked at, and is so. */
  async function confirm(id: string) {
    const entry = ride.entries.find((one) => one.id === id);
    if (!entry) return;
    const confirmed = { ...saidIn(entry), confirmed: 'yes' as const };
    const seen = entry.changes === undefined ? {} : { from_changes: entry.changes };
    await noteEntry(ride.id, id, { ...confirmed, ...seen } as EntryBody, confirmed);
  }

  const dialogs: Record<Doing, { title: string; content: ReactNode }> = {
    entry: {
      title: edited
        ? say('correct-an-entry')
        : ride.entries.length === 0
          ? say('before-the-first-metre')
          : say('entry'),
      content: (
        <EntryPad
          ride={ride}
          units={units}
          kind={ride.entries.length === 0 ? 'start' : 'checkpoint'}
          entry={edited}
          onClose={close}
        />
      ),
    },
    event: {
      title: say('what-happened-asked'),
      content: <EventSheet ride={ride} units={units} onClose={close} />,
    },
    end: {
      title: say('what-stopped-you-asked'),
      content: (
        <EndSheet
          ride={ride}
          units={units}
          onClose={close}
          onEnded={() => navigate(`/ride/${ride.id}`, { replace: true })}
        />
      ),
    },
    unsent: {
      title: say('on-this-device'),
      content: (
        <UnsentSheet
          ride={ride}
          units={units}
          link={link}
          onCorrect={(id) => open('entry', { entry: id })}
          onClose={close}
        />
      ),
    },
    menu: {
      title: say('this-ride'),
      content: (
        <RideMenu
          ride={ride}
          theme={theme}
          onTheme={setTheme}
          tracking={tracking}
          spoken={spoken}
          onSpoken={setSpoken}
          awake={awake}
          onAwake={setAwake}
          onClose={close}
        />
      ),
    },
    prepare: {
      title: say('before-the-first-metre'),
      content: <PrepareSheet ride={ride} onClose={close} />,
    },
    settle: {
      title: say('after-a-rest'),
      content: <EntryPad ride={ride} units={units} kind="settle" entry={null} onClose={close} />,
    },
    now: {
      title: shown.headline,
      content: <NowSheet ride={ride} shown={shown} link={link} units={units} onClose={close} />,
    },
  };
  const over = doing === null ? null : dialogs[doing];
  return (
    <main
      className={classes.page}
      data-answer={shown.state}
      data-evidence={shown.evidence}
      data-code={shown.code ?? ''}
    >
      <h1 className="visually-hidden">{ride.title}</h1>
      <header className={classes.head} data-waiting={ride.unsent.length > 0 || undefined}>
        <Link to="/ride" aria-label={say('leave-title', { title: ride.title })}>
          ‹ {ride.title}
        </Link>
        <span role="status">
          <button type="button" onClick={() => open('unsent')}>
            {statusOf(ride, LINK_WORDS[link])}
          </button>
        </span>
        <button type="button" onClick={() => open('menu')}>
          {say('menu')}
        </button>
      </header>
      <NowLine ride={ride} shown={shown} link={link} onOpen={() => open('now')} />
      {clock && (
        <p className={classes.question} role="alert">
          {clock}
        </p>
      )}
      {ride.entries.length === 0 && (
        <button type="button" className={classes.prepare} onClick={() => open('prepare')}>
          {say('before-you-go-of-done', {
            done: preparedOf(ride).length,
            all: core.preparation.length,
          })}
        </button>
      )}
      {tracking.trouble && (
        <p className={classes.question} role="alert">
          {tracking.trouble}
        </p>
      )}
      <RideStrip ride={ride} shown={shown} units={units} />
      <RideFigures
        ride={ride}
        shown={shown}
        units={units}
        onEntry={(id) => open('entry', { entry: id })}
        onRemove={(id) => heard(remove(id))}
      />
      {asksTurned(ride, shown, tracking) && notYet !== ride.entries.length && (
        <div className={classes.question} role="alert">
          {say('did-you-turn-back')}
          <div className={classes.answers}>
            <button type="button" onClick={() => heard(turned())}>
              {say('yes-i-turned')}
            </button>
            <button type="button" onClick={() => setNotYet(ride.entries.length)}>
              {say('not-yet-answer')}
            </button>
          </div>
        </div>
      )}
      {questionsOf(ride).map(({ id, message }) => (
        <div key={id + message} className={classes.question} role="alert">
          {message}
          <div className={classes.answers}>
            <button type="button" onClick={() => heard(confirm(id))}>
              {say('yes-thats-right')}
            </button>
            <button type="button" onClick={() => open('entry', { entry: id })}>
              {say('correct')}
            </button>
          </div>
        </div>
      ))}
      {ride.refused.length > 0 && (
        <button type="button" className={classes.question} onClick={() => open('unsent')}>
          {say('not-saved-tap-to-correct', {
            count: ride.refused.length,
            refused: ride.refused[0]?.refused,
          })}
        </button>
      )}
      {ride.state === 'ended' ? (
        <EndedPad
          onResult={() => navigate(`/tests/${ride.id}`)}
          onSettled={() => open('settle')}
          onAgain={() => heard(rideAgain(ride.id))}
        />
      ) : (
        <RidePad
          ride={ride}
          moving={tracking.moving}
          onOpen={open}
          onTap={(kind, laps) => heard(tap(kind, laps))}
          onPhoto={(picture) => heard(photo(picture))}
        />
      )}
      {over?.content && (
        <RideDialog title={over.title} onClose={close}>
          {over.content}
        </RideDialog>
      )}
    </main>
  );
}

/** What may be a slip, as the server asks about it; not of what was changed here since. */
function questionsOf(ride: Ride): Array<{ id: string; message: string }> {
  const changed = new Set(ride.unsent.map((act) => act.id));
  return (ride.detail?.entries ?? [])
    .filter((entry) => !changed.has(entry.id) && entry.confirmed !== 'yes')
    .flatMap((entry) =>
      entry.questions.map((question) => ({ id: entry.id, message: question.notice.message })),
    );
}

/** How much is on this device alone, and why. */
function statusOf(ride: Ride, why: string): string {
  const { length } = ride.unsent;
  const waiting = length > 0 ? say('length-waiting', { length }) : '';
  if (ride.refused.length > 0)
    return say('count-not-saved-waiting', { count: ride.refused.length, waiting });
  return say('all-saved-or-waiting', { length, why });
}
