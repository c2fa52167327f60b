import { useEffect, useMemo, useState } from 'react';
import type { Units } from '../api/queries';
import { ENTRY_FIELDS, type EntryBody, type Typed } from '../entries/fields';
import { inReaders, sentOf, shownText, shownWithUnit, unitOf } from '../format/fields';
import { agoText } from '../format/units';
import { noteEntry, sendLater } from '../roadside/acts';
import { type Readings, readingsOf } from '../roadside/entry';
import { keepStartTable } from '../roadside/kept';
import { lastOf, type Ride, type RideEntry, saidIn } from '../roadside/ride';
import { AskGauge } from './AskGauge';
import { draftOf, keepDraft } from './draft';
import { GaugeKeys } from './GaugeKeys';
import { type GaugeKind, gaugeOf, rememberGauge } from './gauge';
import { Keys, typedAfter } from './Keys';
import classes from './Pad.module.css';
import { placed } from './placed';
import { SheetFoot } from './SheetFoot';
import { expectedOf, fieldNamed, rememberSteps, stepsOf, VOLTS, voltsFault } from './steps';
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

/** What is not a reading, in the same draft. */
const NOTE = 'note';

/** One field at a time, in the order of this vehicle's display; each can be skipped. */
export function EntryPad({ ride, units, kind, entry, keeper, onClose }: EntryPadProps) {
  // Of what it was opened for: the first entry is noted before the pad is gone, and the next is of another kind.
  const [of] = useState(() => entry?.id ?? kind);
  const [entryId] = useState(() => entry?.id ?? crypto.randomUUID());
  const nowS = () => keeper?.nowS() ?? sinceStart(ride.started_at);
  const [openedAt] = useState(nowS);
  const [typed, setTyped] = useState<Typed>(() => ({
    ...(entry ? typedOfEntry(entry, units) : {}),
    ...draftOf(ride.id, of),
  }));
  const [steps, setSteps] = useState<string[]>(() => stepsWith(stepsOf(ride), typed));
  const [at, setAt] = useState(0);
  const [pulling, setPulling] = useState(false);
  const [asTyped, setAsTyped] = useState<ReadonlySet<string>>(new Set());
  const [gauge, setGauge] = useState<GaugeKind | null>(() => gaugeOf(ride));
  const [more, setMore] = useState(false);
  /** At rest, pulling, amps: a resistance. */
  const [guided, setGuided] = useState(false);
  /** In which order the fields were read. */
  const [order, setOrder] = useState<string[]>([]);
  useEffect(() => keepDraft(ride.id, of, typed), [ride.id, of, typed]);

  const step = steps[Math.min(at, steps.length - 1)] ?? 'voltage_rest_v';
  const name = step === 'voltage_rest_v' && pulling ? 'voltage_load_v' : step;
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
  const set = (value: string) => {
    setTyped((before) => ({ ...before, [name]: value }));
    setOrder((before) => (before.includes(name) ? before : [...before, name]));
  };
  const go = (to: number) => {
    setMore(false);
    setPulling(false);
    setAt(Math.max(0, Math.min(to, steps.length - 1)));
  };
  const next = () => {
    if (guided && step === 'voltage_rest_v' && !pulling) setPulling(true);
    else go(at + 1);
  };
  const guide = () => {
    setGuided(true);
    setMore(false);
    setPulling(false);
    setSteps((before) => pairFirst(before));
    setAt(0);
  };
  const press = (key: string) => set(typedAfter(text, key));
  usePhysicalKeys(press, more || (name === 'gauge' && gauge?.kind !== 'percent'));

  const faults = VOLTS.map((volts) => {
    const said = typed[volts] ?? '';
    return said === '' ? '' : voltsFault(ride, volts, Number(taken(volts).replace(',', '.')));
  }).filter(Boolean);
  const isLast = at >= steps.length - 1;
  const anything = Object.entries(typed).some(([, value]) => value.trim() !== '');

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
      order.filter((one) => (typed[one] ?? '').trim() !== ''),
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
      <nav className={classes.steps} aria-label="What to read">
        {steps.map((one, index) => (
          <button
            key={one}
            type="button"
            className={classes.step}
            aria-current={index === at && !more ? 'step' : undefined}
            onClick={() => go(index)}
          >
            {one === 'voltage_rest_v' ? 'Volts' : fieldNamed(one).label}
            <small>{shownStep(one, typed, units, taken) || '–'}</small>
          </button>
        ))}
        <button
          type="button"
          className={classes.step}
          aria-current={more ? 'step' : undefined}
          onClick={() => setMore(true)}
        >
          More
          <small>…</small>
        </button>
      </nav>
      {more ? (
        <MoreFields
          steps={steps}
          note={typed[NOTE] ?? ''}
          onNote={(note) => setTyped((before) => ({ ...before, [NOTE]: note }))}
          onGuide={kind === 'settle' ? null : guide}
          onAdd={(added) => {
            setSteps((before) => [...before, added]);
            setMore(false);
            setAt(steps.length);
          }}
        />
      ) : (
        <div className={classes.field}>
          {step === 'voltage_rest_v' && (
            <fieldset className={classes.two} aria-label="How the volts are read">
              <button
                type="button"
                className={classes.choice}
                aria-pressed={!pulling}
                onClick={() => setPulling(false)}
              >
                Throttle closed
              </button>
              <button
                type="button"
                className={classes.choice}
                aria-pressed={pulling}
                onClick={() => setPulling(true)}
              >
                Pulling
              </button>
            </fieldset>
          )}
          <output className={classes.display} aria-label={field.label}>
            {shownOffer(text, offers)}
            <small> {unit}</small>
          </output>
          <p className={classes.hint}>
            {guided && PAIR_HINTS[name]
              ? PAIR_HINTS[name]
              : last === null
                ? (hintOf(name) ?? ' ')
                : `last ${shownWithUnit(field, last.value, units)}, ${agoText(openedAt - last.time_s)}`}
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
              onClick={() => setAsTyped((before) => new Set([...before, name]))}
            >
              Taken as {offers[0]} {unit}. Tap for {offers[1]} {unit} as typed
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
              disabled={at === 0}
              onClick={() => go(at - 1)}
            >
              Previous
            </button>
            <button
              type="button"
              className={classes.choice}
              disabled={last === null}
              onClick={() => {
                if (last !== null) set(plainText(name, last.value, units));
              }}
            >
              Same as last
            </button>
            <button
              type="button"
              className={classes.choice}
              disabled={isLast && !(guided && !pulling && step === 'voltage_rest_v')}
              onClick={next}
            >
              {text === '' ? 'Skip' : 'Next'}
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

interface MoreFieldsProps {
  steps: string[];
  note: string;
  onNote: (note: string) => void;
  /** Lead through a reading at rest and one while it pulls; null where it pulls no more. */
  onGuide: (() => void) | null;
  onAdd: (name: string) => void;
}

/** Everything else that an entry can hold. */
function MoreFields({ steps, note, onNote, onGuide, onAdd }: MoreFieldsProps) {
  const rest = ENTRY_FIELDS.filter(
    (field) => !steps.includes(field.name) && field.name !== 'voltage_load_v',
  );
  return (
    <div className={classes.more}>
      <label className={classes.note}>
        Note
        <textarea
          rows={2}
          maxLength={2000}
          value={note}
          onChange={(event) => onNote(event.currentTarget.value)}
        />
      </label>
      {onGuide && (
        <button type="button" className={classes.choice} onClick={onGuide}>
          Measure resistance (resting, then full throttle)
        </button>
      )}
      <fieldset className={classes.counts} aria-label="Another reading">
        {rest.map((field) => (
          <button
            key={field.name}
            type="button"
            className={classes.choice}
            onClick={() => onAdd(field.name)}
          >
            {field.label}
          </button>
        ))}
      </fieldset>
    </div>
  );
}

/** What to do for each reading of a pair. */
const PAIR_HINTS: Record<string, string> = {
  voltage_rest_v: '1 of 3. Throttle closed: wait until the volts stand still, then read.',
  voltage_load_v:
    '2 of 3. Where it is safe, pull hard on the level for five seconds; somebody else reads, or a picture.',
  current_a: '3 of 3. The amps while it pulled, where the display has them.',
};

/** The steps of a pair before the others. */
function pairFirst(steps: string[]): string[] {
  const pair = ['voltage_rest_v', 'current_a'];
  return [...pair, ...steps.filter((step) => !pair.includes(step))];
}

function hintOf(name: string): string | undefined {
  if (name === 'voltage_rest_v') return 'Standing, throttle closed';
  if (name === 'voltage_load_v') return 'While it pulls; somebody else may read it';
  return undefined;
}

/** A stored value as its keys would have typed it. */
function plainText(name: string, value: number, units: Units): string {
  const field = fieldNamed(name);
  return shownText(field, value, units)
    .replace(/[^\d.\-−]/g, '')
    .replace('−', '-');
}

function typedOfEntry(entry: RideEntry, units: Units): Typed {
  const typed: Typed = { [NOTE]: entry.note ?? '' };
  for (const field of ENTRY_FIELDS) {
    const value = entry[field.name as keyof RideEntry];
    if (typeof value === 'number') typed[field.name] = exactText(field.name, value, units);
  }
  return typed;
}

function exactText(name: string, value: number, units: Units): string {
  const field = fieldNamed(name);
  const shown = field.shown === 'unit' ? inReaders(field.kind, value, units) : value;
  return String(Number(shown.toPrecision(7)));
}

/** The steps of this vehicle, and whatever else an entry holds that is put right. */
function stepsWith(usual: string[], typed: Typed): string[] {
  const held = Object.keys(typed)
    .filter((name) => name !== NOTE && typed[name] !== '')
    .map((name) => (name === 'voltage_load_v' ? 'voltage_rest_v' : name));
  return [...new Set([...usual, ...held])];
}

function shownStep(
  step: string,
  typed: Typed,
  units: Units,
  taken: (name: string) => string,
): string {
  const names = step === 'voltage_rest_v' ? VOLTS : [step];
  return names
    .filter((name) => (typed[name] ?? '') !== '')
    .map(taken)
    .map((text) => `${text} ${unitOf(fieldNamed(step), units)}`.trim())
    .join(', ');
}

function shownOffer(text: string, offers: number[]): string {
  if (offers.length > 1) return String(offers[0]);
  return text === '' ? ' ' : text.replace('-', '−');
}

/** What is sent: each reading with its unit, digits with the point where it was offered. */
function bodyFrom(
  typed: Typed,
  asTyped: ReadonlySet<string>,
  ride: Ride,
  { openedAt, time_s }: { openedAt: number; time_s: number },
  units: Units,
  entry: RideEntry | null,
  kind: 'start' | 'checkpoint' | 'settle',
): EntryBody {
  const readings = ENTRY_FIELDS.flatMap((field) => {
    const text = (typed[field.name] ?? '').trim();
    if (text === '') return [];
    const expected = asTyped.has(field.name) ? null : expectedOf(ride, field.name, openedAt, units);
    const value = placed(text, expected)[0];
    return [[field.name, sentOf(field, String(value ?? text), units)]];
  });
  const note = (typed[NOTE] ?? '').trim();
  const kept = entry ? keptWords(entry) : {};
  return {
    ...kept,
    ...Object.fromEntries(readings),
    kind: entry?.kind ?? kind,
    time_s,
    note: note === '' ? null : note,
  } as EntryBody;
}

/** What an entry says beside its numbers, which a pad does not change. */
function keptWords(entry: RideEntry): Partial<EntryBody> {
  const names = new Set(ENTRY_FIELDS.map((field) => field.name));
  return Object.fromEntries(
    Object.entries(saidIn(entry)).filter(([name, value]) => !names.has(name) && value != null),
  );
}

/** A keyboard types too, where one is at hand. */
function usePhysicalKeys(press: (key: string) => void, off: boolean) {
  useEffect(() => {
    if (off) return;
    const listen = (event: KeyboardEvent) => {
      if (event.target instanceof HTMLTextAreaElement || event.ctrlKey || event.metaKey) return;
      if (/^\d$/.test(event.key)) press(event.key);
      else if (event.key === '.' || event.key === ',') press('.');
      else if (event.key === 'Backspace') press('back');
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [press, off]);
}
