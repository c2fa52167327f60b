import type { Units } from '../api/queries';
import { ENTRY_FIELDS, type Typed } from '../entries/fields';
import { inReaders } from '../format/fields';
import type { RideEntry } from '../roadside/ride';
import { fieldNamed } from './steps';

/** What is not a reading, in the same draft. */
export const NOTE = 'note';
/** The volts at rest and while it pulls are one step. */
const VOLTS_STEP = 'voltage_rest_v';

/** What an entry pad holds while it is open. */
export interface PadState {
  typed: Typed;
  /** What is asked for, in order; more can be added. */
  steps: readonly string[];
  /** The step that is asked for now. */
  at: number;
  /** Which of the volts the digits are. */
  pulling: boolean;
  /** Fields whose digits are taken as they stand, without a point of ours. */
  asTyped: ReadonlySet<string>;
  /** Whether the other fields are shown instead of a step. */
  more: boolean;
  /** At rest, pulling, amps: a resistance. */
  guided: boolean;
  /** In which order the fields were read. */
  order: readonly string[];
}

export type PadAct =
  | { type: 'typed'; text: string }
  | { type: 'noted'; note: string }
  | { type: 'go'; to: number }
  | { type: 'next' }
  | { type: 'pulling'; pulling: boolean }
  | { type: 'as typed' }
  | { type: 'more' }
  | { type: 'added'; name: string }
  | { type: 'guided' };

/** A pad that is opened: what you entered before, and the steps that ask for it. */
export function openedPad(typed: Typed, usual: string[]): PadState {
  return {
    typed,
    steps: stepsWith(usual, typed),
    at: 0,
    pulling: false,
    asTyped: new Set(),
    more: false,
    guided: false,
    order: [],
  };
}

export function stepOf(state: PadState): string {
  return state.steps[Math.min(state.at, state.steps.length - 1)] ?? VOLTS_STEP;
}

/** The field whose digits are typed now. */
export function fieldAt(state: PadState): string {
  const step = stepOf(state);
  return step === VOLTS_STEP && state.pulling ? 'voltage_load_v' : step;
}

/** Whether nothing is asked for after this. */
export function isLast(state: PadState): boolean {
  return state.at >= state.steps.length - 1 && !asksForPull(state);
}

/** Guided, the volts while it pulls come after those at rest. */
function asksForPull(state: PadState): boolean {
  return state.guided && stepOf(state) === VOLTS_STEP && !state.pulling;
}

export function padAfter(state: PadState, act: PadAct): PadState {
  switch (act.type) {
    case 'typed': {
      const name = fieldAt(state);
      const order = state.order.includes(name) ? state.order : [...state.order, name];
      return { ...state, typed: { ...state.typed, [name]: act.text }, order };
    }
    case 'noted':
      return { ...state, typed: { ...state.typed, [NOTE]: act.note } };
    case 'go':
      return wentTo(state, act.to);
    case 'next':
      return asksForPull(state) ? { ...state, pulling: true } : wentTo(state, state.at + 1);
    case 'pulling':
      return { ...state, pulling: act.pulling };
    case 'as typed':
      return { ...state, asTyped: new Set([...state.asTyped, fieldAt(state)]) };
    case 'more':
      return { ...state, more: true };
    case 'added': {
      const steps = [...state.steps, act.name];
      return { ...state, steps, more: false, at: steps.length - 1 };
    }
    case 'guided':
      return { ...wentTo(state, 0), guided: true, steps: pairFirst(state.steps) };
  }
}

function wentTo(state: PadState, to: number): PadState {
  const at = Math.max(0, Math.min(to, state.steps.length - 1));
  return { ...state, at, more: false, pulling: false };
}

/** The steps of a pair before the others. */
function pairFirst(steps: readonly string[]): string[] {
  const pair = ['voltage_rest_v', 'current_a'];
  return [...pair, ...steps.filter((step) => !pair.includes(step))];
}

/** The steps of this vehicle, and whatever else an entry holds that is put right. */
function stepsWith(usual: string[], typed: Typed): string[] {
  const held = Object.keys(typed)
    .filter((name) => name !== NOTE && typed[name] !== '')
    .map((name) => (name === 'voltage_load_v' ? 'voltage_rest_v' : name));
  return [...new Set([...usual, ...held])];
}

/** What an entry that is put right says, as it would be typed. */
export function typedOfEntry(entry: RideEntry, units: Units): Typed {
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
