// @vitest-environment jsdom
import 'fake-indexeddb/auto';
import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { Units } from '../api/queries';
import type { EntryBody } from '../entries/fields';
import type { Ride, RideEntry } from '../roadside/ride';
import { draw } from '../testing/drawn';
import { EntryPad } from './EntryPad';
import { rememberGauge } from './gauge';

const MILES: Units = { distance: 'mi', mass: 'kg', temperature: '°C', pressure: 'kPa' };
const at = (time_s: number, more: object): RideEntry =>
  ({ id: `at ${time_s}`, kind: 'checkpoint', time_s, where: 'stored', ...more }) as RideEntry;

function rideWith(...entries: RideEntry[]): Ride {
  return {
    id: 'ride',
    vehicle_name: 'Tern',
    started_at: null,
    full_v: 54.6,
    cutoff_v: 39,
    most_v: 56,
    entries,
    detail: null,
  } as unknown as Ride;
}

interface Opened {
  ride?: Ride;
  entry?: RideEntry | null;
  nowS?: number;
}

function open({ ride = rideWith(), entry = null, nowS = 1200 }: Opened = {}) {
  rememberGauge(ride, { kind: 'percent', steps: null } as never);
  const noted: EntryBody[] = [];
  const left: string[] = [];
  const user = draw(
    <EntryPad
      ride={ride}
      units={MILES}
      kind="checkpoint"
      entry={entry}
      keeper={{ nowS: () => nowS, note: async (_, body) => void noted.push(body) }}
      onClose={() => left.push('closed')}
    />,
  );
  const tap = (name: string | RegExp) => user.click(screen.getByRole('button', { name }));
  const digits = async (text: string) => {
    for (const digit of text) await tap(digit);
  };
  return { noted, left, tap, digits, user };
}

describe('the entry pad', () => {
  it('stores nothing until something was typed', async () => {
    const { tap, digits } = open();
    const store = screen.getByRole('button', { name: 'Save' }) as HTMLButtonElement;
    expect(store.disabled).toBe(true);
    await digits('5');
    expect(store.disabled).toBe(false);
    await tap('One back');
    expect(store.disabled).toBe(true);
  });

  it('sends digits with the point that was offered, in the core’s units, by the ride’s clock', async () => {
    const { noted, left, tap, digits } = open({ ride: rideWith(at(0, { trip_m: 0 })) });
    await digits('482');
    expect(screen.getByText(/Read as 48.2 V/)).toBeTruthy();
    await tap('Next');
    await digits('38');
    await tap('Save');
    expect(noted).toHaveLength(1);
    expect(noted[0]).toMatchObject({ voltage_rest_v: '48.2 V', kind: 'checkpoint', time_s: 1200 });
    expect(noted[0]?.trip_m).toBe('3.8 mi');
    expect(left).toEqual(['closed']);
  });

  it('takes digits as typed where its rider says so, and refuses volts that no such pack has', async () => {
    const { tap, digits } = open();
    await digits('482');
    await tap(/Read as 48.2/);
    expect(screen.getByRole('alert').textContent).toContain(
      '482 V is more than this pack can have',
    );
    expect((screen.getByRole('button', { name: 'Save' }) as HTMLButtonElement).disabled).toBe(true);
  });

  it('is opened again with what you entered and not stored', async () => {
    const first = open();
    await first.digits('48');
    await first.tap('Back');
    expect(first.noted).toEqual([]);
    open();
    expect(screen.getAllByText(/^48 V$/).length).toBeGreaterThan(0);
  });

  it('shows the last reading with its age, and takes it again with one key', async () => {
    const { noted, tap } = open({ ride: rideWith(at(600, { voltage_rest_v: 50.5 })) });
    expect(screen.getByText(/last 50.5 V, 10 min/)).toBeTruthy();
    await tap('Same as last');
    await tap('Save');
    expect(noted[0]?.voltage_rest_v).toBe('50.5 V');
  });

  it('puts an entry right at its own time, and keeps the words that no key changes', async () => {
    const old = at(300, { trip_m: 1609.344, note: 'by the mill', event: 'lap' });
    const { noted, tap, digits } = open({ ride: rideWith(old), entry: old });
    await tap(/^Trip/);
    await tap('One back');
    await digits('2');
    await tap('Save');
    expect(noted[0]).toMatchObject({ time_s: 300, note: 'by the mill', kind: 'checkpoint' });
    expect(noted[0]?.trip_m).toBe('2 mi');
  });

  it('types from a keyboard where one is at hand, but not over what somebody writes', async () => {
    const { noted, tap, user } = open();
    await user.keyboard('47,5');
    await tap(/^More/);
    await user.type(screen.getByLabelText('Note'), 'at 12');
    await tap('Save');
    expect(noted[0]).toMatchObject({ voltage_rest_v: '47.5 V', note: 'at 12' });
  });

  it('takes volts at rest and under load into one entry, and forgets the draft once it is stored', async () => {
    const { noted, tap, digits } = open();
    await digits('412');
    await tap('Under load');
    await digits('386');
    await tap('Save');
    expect(noted[0]).toMatchObject({ voltage_rest_v: '41.2 V', voltage_load_v: '38.6 V' });
    const drafts = Object.keys(localStorage).filter((key) => key.startsWith('limpet-draft-'));
    expect(drafts).toEqual([]);
  });

  it('leads through a pair of volts and the amps between them', async () => {
    const { noted, tap } = open();
    await tap(/^More/);
    await tap(/^Measure resistance/);
    for (const [number, reading] of ['41.2', '38.6', '9.5'].entries()) {
      expect(screen.getByText(new RegExp(`^${number + 1} of 3\\.`))).toBeTruthy();
      for (const key of reading) await tap(key === '.' ? 'Point' : key);
      await tap('Next');
    }
    await tap('Save');
    expect(noted[0]).toMatchObject({
      voltage_rest_v: '41.2 V',
      voltage_load_v: '38.6 V',
      current_a: '9.5 A',
    });
  });

  it('does not store volts that no such pack has, until they are put right', async () => {
    const { noted, tap } = open();
    for (const key of ['5', '8', '5', 'Point']) await tap(key);
    expect(screen.getByRole('alert').textContent).toContain(
      '585 V is more than this pack can have',
    );
    for (let times = 0; times < 4; times += 1) await tap('One back');
    for (const key of ['4', '1', 'Point', '5']) await tap(key);
    expect(screen.queryByRole('alert')).toBeNull();
    await tap('Save');
    expect(noted[0]?.voltage_rest_v).toBe('41.5 V');
  });
});
