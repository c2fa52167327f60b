// @vitest-environment jsdom
import { screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { draw } from '../testing/drawn';
import { Choosing } from './Choosing';
import { addressOfChosen, choiceFrom, chosenAfter } from './choice';
import { newestQuery } from './newest';

const row = (id: string, title: string) => ({
  id,
  title,
  vehicle_name: 'Tern',
  pack_name: 'Blue',
  started_at: '2026-05-01T10:00:00Z',
});
const known = (...rows: object[]) => [[newestQuery.queryKey, { items: rows }] as const];
const NONE = { first: [], second: [] };

describe('what is chosen', () => {
  it('is an address once both are there, with the question and whether it stays hidden', () => {
    const one = chosenAfter(choiceFrom(NONE), { first: 'a' });
    expect(addressOfChosen(one)).toBeNull();
    const both = chosenAfter(one, { second: 'b', question: 'wind', blind: true });
    const address = new URL(addressOfChosen(both) ?? '', 'http://x');
    expect(address.pathname).toBe('/compare');
    expect(address.searchParams.get('question')).toBe('wind');
    expect(address.searchParams.get('blind')).toBe('1');
    expect(addressOfChosen({ ...both, blind: false })).not.toContain('blind');
  });

  it('compares no test with itself', () => {
    const both = chosenAfter(choiceFrom({ first: ['a'], second: ['b'] }), { first: 'b' });
    expect(both).toMatchObject({ first: 'b', second: null });
  });
});

describe('choosing two tests', () => {
  it('says what is missing where there are not two', () => {
    draw(<Choosing sides={NONE} />, known(row('a', 'Harbour loop')));
    expect(screen.getByText(/A comparison needs two tests/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Compare' })).toBeNull();
  });

  it('opens the comparison of the two, not of one with itself', async () => {
    const user = draw(
      <Choosing sides={{ first: ['a'], second: [] }} />,
      known(row('a', 'Harbour loop'), row('b', 'Over the hill')),
    );
    const compare = screen.getByRole('button', { name: 'Compare' }) as HTMLButtonElement;
    expect(compare.disabled).toBe(true);
    await user.click(screen.getByRole('combobox', { name: 'The other' }));
    const offered = within(await screen.findByRole('listbox', { name: 'The other' }));
    expect(offered.queryByText(/Harbour loop/)).toBeNull();
    await user.click(offered.getByText(/Over the hill/));
    await user.click(compare);
    const address = screen.getByLabelText('address').textContent ?? '';
    expect(address).toContain('/compare?');
    expect(new URL(address, 'http://x').searchParams.toString()).toMatch(/a.*b/);
  });
});
