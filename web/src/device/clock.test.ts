import { describe, expect, it } from 'vitest';
import { clockTrouble, heardDate, jumpOf, jumpWords } from './clock';

const AT = Date.parse('2026-05-14T07:00:00Z');
const date = (seconds: number) => new Date(AT + seconds * 1000).toUTCString();

describe('a device’s clock', () => {
  it('is trusted while it is about right, however long an answer took', () => {
    heardDate(date(0), AT, AT + 4000);
    expect(clockTrouble()).toBe('');
    heardDate(date(80), AT, AT);
    expect(clockTrouble()).toBe('');
  });

  it('that is two hours ahead is told, and so is one that is behind', () => {
    heardDate(date(-7200), AT, AT + 200);
    expect(clockTrouble()).toContain('2.0 h ahead of');
    heardDate(date(600), AT, AT + 200);
    expect(clockTrouble()).toContain('10 min behind');
    heardDate(date(0), AT, AT);
    expect(clockTrouble()).toBe('');
  });

  it('is not judged by an answer without a date', () => {
    heardDate(null, AT, AT);
    heardDate('no date', AT, AT);
    expect(clockTrouble()).toBe('');
  });

  it('that jumps at midnight is noticed against one that only counts', () => {
    const before = { wall: AT, mono: 1000 };
    expect(jumpOf(before, AT + 5000, 6000)).toBe(0);
    expect(jumpOf(before, AT + 7_205_000, 6000)).toBe(7200);
    expect(jumpWords(7200)).toContain('120 min forward');
    expect(jumpWords(-3600)).toContain('60 min back');
  });
});
