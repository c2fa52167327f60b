// @vitest-environment jsdom
import { fireEvent, screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { draw } from '../testing/drawn';
import { Explained, Screen } from './Explained';
import { piecesOf, TERMS } from './terms';

const named = (text: string) =>
  piecesOf(text).flatMap(({ text: words, code }) => (code === null ? [] : [[words, code]]));

describe('terms in a sentence', () => {
  it('are found as whole words, and no letter is lost', () => {
    const text = 'Plan on 9 mi: resting volts, under load, reserves, ±4%, 19 rides in 20, cut-off.';
    expect(named(text)).toEqual([
      ['Plan on', 'plan_on'],
      ['resting volts', 'resting'],
      ['under load', 'under_load'],
      ['±4%', 'plus_minus'],
      ['19 rides in 20', 'rides_in_20'],
      ['cut-off', 'cut_off'],
    ]);
    expect(
      piecesOf(text)
        .map((piece) => piece.text)
        .join(''),
    ).toBe(text);
  });
});

describe('a term on a screen', () => {
  it('is explained where it first stands, and only there, by the sentence that stands in Method', async () => {
    draw(
      <Screen>
        <p>
          <Explained text="Keeping a reserve" />
        </p>
        <p>
          <Explained text="before the reserve, at cut-off" />
        </p>
      </Screen>,
    );
    const terms = screen.getAllByRole('button').map((button) => button.textContent);
    expect(terms).toEqual(['reserve', 'cut-off']);
    expect(screen.queryByText(TERMS.reserve?.meaning ?? '', { exact: false })).toBeNull();
    fireEvent.click(screen.getByRole('button', { name: 'reserve' }));
    const told = await screen.findByText(TERMS.reserve?.meaning ?? '', { exact: false });
    expect(told.textContent).toContain('Reserve.');
    expect(screen.getByRole('link', { name: 'All terms' }).getAttribute('href')).toBe(
      '/method#term-reserve',
    );
  });

  it('stays plain where nothing holds its screen together', () => {
    draw(<Explained text="Keeping a reserve" />);
    expect(screen.queryByRole('button')).toBeNull();
    expect(screen.getByText('reserve', { exact: false })).toBeTruthy();
  });
});
