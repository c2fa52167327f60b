// @vitest-environment jsdom
import { fireEvent, screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { draw } from '../testing/drawn';
import { Fold } from './Fold';

describe('a part behind its heading', () => {
  const part = () => screen.getByText('Three rides.').closest('details');

  it('is closed until somebody wants it, and open on paper', () => {
    draw(
      <Fold title="Every ride">
        <p>Three rides.</p>
      </Fold>,
    );
    expect(part()?.open).toBe(false);
    fireEvent(window, new Event('beforeprint'));
    expect(part()?.open).toBe(true);
  });

  it('is open from the start where that is asked', () => {
    draw(
      <Fold title="Every ride" open>
        <p>Three rides.</p>
      </Fold>,
    );
    expect(part()?.open).toBe(true);
  });
});
