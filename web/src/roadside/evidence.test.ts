import { describe, expect, it } from 'vitest';
import { beyond, type Evidence, isNewer, sameAhead } from './evidence';
import type { Ride, RideEntry } from './ride';
import type { Act } from './store';

const EVIDENCE: Evidence = {
  revision: 4,
  digest: 'd',
  core: 'c',
  sheet_changes: 1,
  entries: [
    { id: 'a', changes: 0 },
    { id: 'b', changes: 2 },
  ],
};
const AT_S = 600;

const noted = (id: string, more: Partial<RideEntry> = {}): RideEntry => ({
  id,
  kind: 'checkpoint',
  time_s: 900,
  where: 'stored',
  ...more,
});
const KNOWN = [noted('a', { time_s: 0, changes: 0 }), noted('b', { time_s: AT_S, changes: 2 })];

function ride(entries: RideEntry[], more: Partial<Ride> = {}): Ride {
  const detail = { sheet: { changes: 1 } };
  return { entries, unsent: [], revision: 4, detail, ...more } as unknown as Ride;
}

const act = (kind: Act['kind'], id = 'x') => ({ kind, id }) as Act;
const kindOf = (one: Ride, evidence = EVIDENCE) => beyond(one, evidence, AT_S).kind;

describe('what a device knows beyond an answer', () => {
  it('is nothing where both know the same', () => {
    expect(kindOf(ride(KNOWN))).toBe('nothing');
  });

  it('is more where something was noted since, sent or not', () => {
    for (const where of ['stored', 'unsent'] as const) {
      const found = beyond(ride([...KNOWN, noted('c', { where })]), EVIDENCE, AT_S);
      expect(found).toMatchObject({ kind: 'more', entries: [{ id: 'c' }] });
    }
  });

  it('is nothing of what was refused', () => {
    expect(kindOf(ride([...KNOWN, noted('c', { where: 'refused' })]))).toBe('nothing');
  });

  it.each([
    ['an entry was corrected here', [KNOWN[0], { ...KNOWN[1], where: 'unsent' }]],
    [
      'one was corrected and taken, at the same time of the ride',
      [KNOWN[0], { ...KNOWN[1], changes: 3 }],
    ],
    ['one was removed', [KNOWN[0]]],
    ['one was added before the last that it had', [...KNOWN, noted('c', { time_s: 300 })]],
  ])('is something else where %s', (_, entries) => {
    expect(kindOf(ride(entries as RideEntry[]))).toBe('other');
  });

  it('is something else where the sheet was changed, here or there', () => {
    expect(kindOf(ride(KNOWN, { unsent: [act('sheet')] }))).toBe('other');
    const detail = { sheet: { changes: 2 } } as unknown as Ride['detail'];
    expect(kindOf(ride(KNOWN, { detail }))).toBe('other');
    // What the gauge counts in changes no reading.
    expect(kindOf(ride(KNOWN, { unsent: [act('sheet', 'gauge-1')] }))).toBe('more');
  });

  it('is more where only a track has grown', () => {
    expect(kindOf(ride(KNOWN, { revision: 5 }))).toBe('more');
    expect(kindOf(ride(KNOWN, { unsent: [act('piece')] }))).toBe('more');
    expect(kindOf(ride(KNOWN, { unsent: [act('photo')] }))).toBe('nothing');
  });

  it('is more from the very start, of an answer from before it', () => {
    const before = { ...EVIDENCE, entries: [] };
    expect(beyond(ride([noted('a', { time_s: 0 })]), before, 0).kind).toBe('more');
  });
});

describe('answers', () => {
  it('follow each other by their evidence, not by the clock', () => {
    expect(isNewer(EVIDENCE, { ...EVIDENCE, revision: 3 })).toBe(false);
    expect(isNewer(EVIDENCE, { ...EVIDENCE, revision: 4 })).toBe(true);
    expect(isNewer(EVIDENCE, { ...EVIDENCE, revision: 5 })).toBe(true);
  });

  it('belong to the way that was asked for', () => {
    expect(sameAhead(null, null)).toBe(true);
    expect(sameAhead(null, { way: 'back' })).toBe(false);
    const given = { way: 'given' as const, from_m: 0, until_m: 9000 };
    expect(sameAhead(given, { ...given })).toBe(true);
    expect(sameAhead(given, { ...given, until_m: 9001 })).toBe(false);
  });
});
