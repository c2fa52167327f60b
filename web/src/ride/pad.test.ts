import { describe, expect, it } from 'vitest';
import { fieldAt, isLast, openedPad, type PadAct, padAfter, stepOf } from './pad';

const USUAL = ['voltage_rest_v', 'trip_m', 'gauge'];
const padWith = (...acts: PadAct[]) => acts.reduce(padAfter, openedPad({}, USUAL));
const TRIP = padWith({ type: 'next' });

describe('a pad', () => {
  it('asks one step after the other, and stays at the last', () => {
    expect(stepOf(padWith())).toBe('voltage_rest_v');
    expect(stepOf(TRIP)).toBe('trip_m');
    const end = padWith({ type: 'next' }, { type: 'next' }, { type: 'next' });
    expect(stepOf(end)).toBe('gauge');
    expect(isLast(end)).toBe(true);
    expect(stepOf(padAfter(TRIP, { type: 'go', to: -1 }))).toBe('voltage_rest_v');
  });

  it('keeps each field’s digits, in the order in which they were read', () => {
    const state = padWith(
      { type: 'go', to: 2 },
      { type: 'typed', text: '6' },
      { type: 'go', to: 0 },
      { type: 'typed', text: '48' },
      { type: 'typed', text: '482' },
    );
    expect(state.typed).toEqual({ gauge: '6', voltage_rest_v: '482' });
    expect(state.order).toEqual(['gauge', 'voltage_rest_v']);
  });

  it('takes volts while it pulls for another field, on this step alone', () => {
    const pulling = padWith({ type: 'pulling', pulling: true }, { type: 'typed', text: '441' });
    expect(pulling.typed).toEqual({ voltage_load_v: '441' });
    expect(fieldAt(padAfter(pulling, { type: 'go', to: 1 }))).toBe('trip_m');
    expect(fieldAt(padAfter(pulling, { type: 'go', to: 0 }))).toBe('voltage_rest_v');
  });

  it('leads through a pair: at rest, pulling, amps, then the rest', () => {
    const begun = padAfter(padAfter(TRIP, { type: 'more' }), { type: 'guided' });
    expect(begun.more).toBe(false);
    expect(begun.steps).toEqual(['voltage_rest_v', 'current_a', 'trip_m', 'gauge']);
    expect(fieldAt(begun)).toBe('voltage_rest_v');
    expect(isLast(begun)).toBe(false);
    const pulls = padAfter(begun, { type: 'next' });
    expect(fieldAt(pulls)).toBe('voltage_load_v');
    expect(fieldAt(padAfter(pulls, { type: 'next' }))).toBe('current_a');
  });

  it('guided with one step only, still asks for the volts while it pulls', () => {
    const one = padAfter(openedPad({}, ['voltage_rest_v']), { type: 'guided' });
    expect(isLast({ ...one, steps: ['voltage_rest_v'] })).toBe(false);
  });

  it('adds a field and goes to it', () => {
    const added = padAfter(padAfter(TRIP, { type: 'more' }), { type: 'added', name: 'energy_wh' });
    expect(stepOf(added)).toBe('energy_wh');
    expect(added.more).toBe(false);
  });

  it('takes digits as typed for the field that was shown, no other', () => {
    const state = padAfter(TRIP, { type: 'as typed' });
    expect([...state.asTyped]).toEqual(['trip_m']);
  });

  it('opens with a step for whatever was typed before', () => {
    const opened = openedPad({ note: 'wet', current_a: '12', voltage_load_v: '', gauge: '4' }, [
      'trip_m',
    ]);
    expect(opened.steps).toEqual(['trip_m', 'current_a', 'gauge']);
    expect(openedPad({ voltage_load_v: '44' }, ['trip_m']).steps).toEqual([
      'trip_m',
      'voltage_rest_v',
    ]);
  });
});
