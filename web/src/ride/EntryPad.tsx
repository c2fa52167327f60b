import { useEffect, useMemo, useReducer, useState } from 'react';
import type { Units } from '../api/queries';
import type { EntryBody } from '../entries/fields';
import { shownWithUnit, unitOf } from '../format/fields';
import { agoText } from '../format/units';
import { noteEntry, sendLater } from '../roadside/acts';
import { type Readings, readingsOf } from '../roadside/entry';
import { keepStartTable } from '../roadside/kept';
import { lastOf, type Ride, type RideEntry } from '../roadside/ride';
import { say } from '../words/en/ride.ftl';
import { AskGauge } from './AskGauge';
import { draftOf, keepDraft } from './draft';
import { GaugeKeys } from './GaugeKeys';
import { type GaugeKind, gaugeOf, rememberGauge } from './gauge';
import { Keys, typedAfter } from './Keys';
import { MoreFields } from './MoreFields';
import classes from './Pad.module.css';
import { PadSteps } from './PadSteps';
import { fieldAt, isLast, NOTE, openedPad, padAfter, stepOf, typedOfEntry } from './pad';
import { bodyFrom, hintOf, PAIR_HINTS, plainText, shownOffer } from './padWords';
import { placed } from './placed';
import { SheetFoot } from './SheetFoot';
import { expectedOf, fieldNamed, rememberSteps, stepsOf, VOLTS, voltsFault } from './steps';
import { usePhysicalKeys } from './usePhysicalKeys';
import { sinceStart } from './useTime';

interface EntryPadProps {
  ride: Ride;
  units: Units;
  kind: 'start' | 'checkpoint' | 'settle';
  /** An entry that is put right; null notes a new one. */
  entry: RideEntry | null;
  /** Where an entry goes and by which clock; this device's own when nothing is said. */
  keeper?: EntryKeeper;
  onClose: () => void;
}

/** A ride with a clock and a log of its own. */
export interface EntryKeeper {
  nowS: () => number;
  note: (id: string, body: EntryBody, shown: Readings) => Promise<void>;
}

/** One field at a time, in the order of this vehicle's display; each can be skipped. */
export function EntryPad({ ride, units, kind, entry, keeper, onClose }: EntryPadProps) {
  // Of what it was opened for: the first entry is noted before the pad is gone, and the next is of another kind.
  const [of] = useState(() => entry?.id ?? kind);
  const [entryId] = useState(() => entry?.id ?? crypto.randomUUID());
  const nowS = () => keeper?.nowS() ?? sinceStart(ride.started_at);
  const [openedAt] = useState(nowS);
  const [state, act] = useReducer(padAfter, null, () =>
    openedPad(
      { ...(entry ? typedOfEntry(entry, units) : {}), ...draftOf(ride.id, of) },
      stepsOf(ride),
    ),
  );
  const { typed, asTyped, pulling, more } = state;
  const [gauge, setGauge] = useState<GaugeKind | null>(() => gaugeOf(ride));
  useEffect(() => keepDraft(ride.id, of, typed), [ride.id, of, typed]);

  const name = fieldAt(state);
  const field = fieldNamed(name);
  const unit = unitOf(field, units) || (name === 'gauge' && gauge?.kind === 'percent' ? '%' : '');
  const text = typed[name] ?? '';
  const expected = useMemo(
    () => expectedOf(ride, name, openedAt, units),
    [ride, name, openedAt, units],
  );
  const offers = placed(text, asTyped.has(name) ? null : expected);
  const last = lastOf(ride, name as keyof Readings);
  /** What a field is taken for: digits with the point where it was offered. */
  const taken = (of: string) => {
    const digits = typed[of] ?? '';
    const fits = asTyped.has(of) ? null : expectedOf(ride, of, openedAt, units);
    return String(placed(digits, fits)[0] ?? digits);
  };
  const set = (text: string) => act({ type: 'typed', text });
  const press = (key: string) => set(typedAfter(text, key));
  usePhysicalKeys(press, more || (name === 'gauge' && gauge?.kind !== 'percent'));

  const faults = VOLTS.map((volts) => {
    const said = typed[volts] ?? '';
    return said === '' ? '' : voltsFault(ride, volts, Number(taken(volts).replace(',', '.')));
  }).filter(Boolean);
  const anything = Object.values(typed).some((value) => value.trim() !== '');

  async function store() {
    const times = { openedAt, time_s: entry?.time_s ?? nowS() };
    const body = bodyFrom(typed, asTyped, ride, times, units, entry, kind);
    const seen = ride.entries.find((one) => one.id === entry?.id)?.changes;
    const sent = seen === undefined ? body : { ...body, from_changes: seen };
    const shown = readingsOf(body, units);
    if (keeper) await keeper.note(entryId, body, shown);
    else await noteEntry(ride.id, entryId, sent, shown);
    keepDraft(ride.id, of, {});
    rememberSteps(
      ride,
      state.order.filter((one) => (typed[one] ?? '').trim() !== ''),
    );
    onClose();
  }

  function sayGauge(said: GaugeKind) {
    setGauge(said);
    rememberGauge(ride, said);
    const base = ride.detail?.sheet?.changes ?? 0;
    const body = { base, gauge: { gauge_kind: said.kind, gauge_steps: said.steps } };
    const path = `/api/tests/${ride.id}/sheet`;
    sendLater(ride.id, `gauge-${ride.id}`, 'sheet', { method: 'PUT', path, body });
    // Until somebody has judged the ride, what it shows is read by start values.
    keepStartTable(ride.id, undefined, said.steps).catch(console.warn);
  }

  return (
    <div className={classes.pad}>
      <PadSteps state={state} units={units} taken={taken} onAct={act} />
      {more ? (
        <MoreFields
          steps={state.steps}
          note={typed[NOTE] ?? ''}
          onNote={(note) => act({ type: 'noted', note })}
          onGuide={kind === 'settle' ? null : () => act({ type: 'guided' })}
          onAdd={(name) => act({ type: 'added', name })}
        />
      ) : (
        <div className={classes.field}>
          {stepOf(state) === 'voltage_rest_v' && (
            <VoltsChoice
              pulling={pulling}
              onPulling={(pulling) => act({ type: 'pulling', pulling })}
            />
          )}
          <output className={classes.display} aria-label={field.label}>
            {shownOffer(text, offers)}
            <small> {unit}</small>
          </output>
          <p className={classes.hint}>
            {last === null || (state.guided && name in PAIR_HINTS)
              ? (hintOf(name, state.guided) ?? ' ')
              : say('last-shown-with-unit-opened', {
                  shown_with_unit: shownWithUnit(field, last.value, units),
                  opened_at: agoText(openedAt - last.time_s),
                })}
          </p>
          {faults.map((fault) => (
            <p key={fault} className={classes.warn} role="alert">
              {fault}
            </p>
          ))}
          {offers.length > 1 && (
            <button
              type="button"
              className={classes.offer}
              onClick={() => act({ type: 'as typed' })}
            >
              {say('taken-as-tap-for-as', { taken: offers[0], unit, typed: offers[1] })}
            </button>
          )}
          {name === 'gauge' && gauge === null ? (
            <AskGauge onSaid={sayGauge} />
          ) : name === 'gauge' && gauge !== null && gauge.kind !== 'percent' ? (
            <GaugeKeys gauge={gauge} value={text} onTap={set} />
          ) : (
            <Keys onKey={press} minus={name.endsWith('_temp_c')} />
          )}
          <div className={classes.three}>
            <button
              type="button"
              className={classes.choice}
              disabled={state.at === 0}
              onClick={() => act({ type: 'go', to: state.at - 1 })}
            >
              {say('previous')}
            </button>
            <button
              type="button"
              className={classes.choice}
              disabled={last === null}
              onClick={() => {
                if (last !== null) set(plainText(name, last.value, units));
              }}
            >
              {say('same-as-last')}
            </button>
            <button
              type="button"
              className={classes.choice}
              disabled={isLast(state)}
              onClick={() => act({ type: 'next' })}
            >
              {text === '' ? say('skip') : say('next')}
            </button>
          </div>
        </div>
      )}
      <SheetFoot
        onBack={onClose}
        store={{ disabled: !anything || faults.length > 0, onStore: store }}
      />
    </div>
  );
}

interface VoltsChoiceProps {
  pulling: boolean;
  onPulling: (pulling: boolean) => void;
}

/** Volts at rest and under load are two readings of one step. */
function VoltsChoice({ pulling, onPulling }: VoltsChoiceProps) {
  return (
    <fieldset className={classes.two} aria-label={say('how-the-volts-are-read')}>
      <button
        type="button"
        className={classes.choice}
        aria-pressed={!pulling}
        onClick={() => onPulling(false)}
      >
        {say('throttle-closed')}
      </button>
      <button
        type="button"
        className={classes.choice}
        aria-pressed={pulling}
        onClick={() => onPulling(true)}
      >
        {say('under-load')}
      </button>
    </fieldset>
  );
}
