import { PasswordAgain } from '../account/SignBackIn';
import type { Units } from '../api/queries';
import { rememberedSession } from '../api/session';
import { discard, keepMine, restore, tryAgain } from '../roadside/acts';
import { saidBy } from '../roadside/entry';
import type { Ride } from '../roadside/ride';
import type { Link } from '../roadside/sender';
import { sendKept } from '../roadside/sender';
import type { Act } from '../roadside/store';
import { sayRemoved } from '../ui/notes';
import { say } from '../words/en/ride.ftl';
import classes from './Pad.module.css';
import { describeEntry } from './RideFigures';
import { SheetFoot } from './SheetFoot';

interface UnsentSheetProps {
  ride: Ride;
  units: Units;
  link: Link;
  onCorrect: (entryId: string) => void;
  onClose: () => void;
}

/** Why what was noted has not gone. */
export const LINK_WORDS: Record<Link, string> = {
  well: say('being-sent'),
  silent: say('no-signal'),
  failing: say('the-server-has-a-problem'),
  signed_out: say('signed-out'),
};

const LINK_SENTENCES: Record<Link, string> = {
  well: say('it-is-being-sent'),
  silent: say('limpet-isnt-answering-no-signal'),
  failing: say('limpet-has-a-problem-at'),
  signed_out: say('you-have-been-signed-out'),
};

/** What is kept on this device, why, and what can be done about what was not taken. */
export function UnsentSheet({ ride, units, link, onCorrect, onClose }: UnsentSheetProps) {
  const before = link === 'signed_out' ? rememberedSession() : null;
  return (
    <div className={classes.pad}>
      <div className={classes.more}>
        {ride.unsent.length > 0 && <p>{LINK_SENTENCES[link]}</p>}
        {before && <PasswordAgain before={before} />}
        {ride.unsent.length === 0 && ride.refused.length === 0 && (
          <p>{say('everything-you-noted-is-saved')}</p>
        )}
        <ul className={classes.list}>
          {ride.refused.map((act) => (
            <Refused key={act.seq} act={act} ride={ride} units={units} onCorrect={onCorrect} />
          ))}
          {ride.unsent.map((act) => (
            <li key={act.seq}>
              {say('waiting-on-this-phone', { describe: describe(act, ride, units) })}
            </li>
          ))}
        </ul>
      </div>
      <SheetFoot
        onBack={onClose}
        store={{
          label: say('send-now'),
          disabled: ride.unsent.length === 0,
          onStore: () => sendKept(),
        }}
      />
    </div>
  );
}

interface RefusedProps {
  act: Act;
  ride: Ride;
  units: Units;
  onCorrect: (entryId: string) => void;
}

function Refused({ act, ride, units, onCorrect }: RefusedProps) {
  const what = describe(act, ride, units);
  const theirs = act.conflict ? ride.detail?.entries.find((entry) => entry.id === act.id) : null;
  if (theirs) {
    return (
      <li>
        <p role="alert">{act.refused}</p>
        <p>
          <b>{say('here')}</b> {what}
        </p>
        <p>
          <b>{say('there')}</b> {describeEntry(saidBy(theirs), ride.started_at, units)}
        </p>
        <div className={classes.two}>
          <button
            type="button"
            className={classes.choice}
            onClick={() => keepMine(act, theirs.changes).then(() => sendKept())}
          >
            {say('keep-this-one')}
          </button>
          <button type="button" className={classes.choice} onClick={() => discard(act.seq)}>
            {say('keep-that-one')}
          </button>
        </div>
      </li>
    );
  }
  return (
    <li>
      <b>{say('not-saved')}</b> {what}
      <p role="alert">{act.refused}</p>
      <div className={classes.three}>
        <button
          type="button"
          className={classes.choice}
          disabled={act.kind !== 'entry'}
          onClick={() => onCorrect(act.id)}
        >
          {say('correct')}
        </button>
        <button
          type="button"
          className={classes.choice}
          onClick={() => tryAgain(act.seq).then(() => sendKept())}
        >
          {say('send-again')}
        </button>
        <button
          type="button"
          className={classes.choice}
          onClick={() => discard(act.seq).then(() => sayRemoved(what, () => restore(act)))}
        >
          {say('remove')}
        </button>
      </div>
    </li>
  );
}

function describe(act: Act, ride: Ride, units: Units): string {
  const { shown } = act;
  if (act.kind === 'piece') return say('a-piece-of-track');
  if (act.kind === 'photo') return say('a-picture');
  if (shown.kind === 'entry') return describeEntry({ ...shown.entry }, ride.started_at, units);
  return {
    start: say('the-start'),
    removal: say('an-entry-removed'),
    ending: say('the-end'),
    again: 'resumed',
    nothing: say('a-change-of-the-sheet'),
  }[shown.kind];
}
