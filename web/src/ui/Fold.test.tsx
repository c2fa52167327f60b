// @vitest-environment jsdom
import { fireEvent, screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { draw } from '../testing/drawn';
import { Fold } from './Fold';

describe('a part behind its heading', () => {
  const part = () => screen.getByText('Every ride').closest('details');
  const inside = () => screen.queryByText('Three rides.');

  it('is closed until somebody wants it, and open on paper', () => {
    draw(
      <Fold title="Every ride">
        <p>Three rides.</p>
      </Fold>,
    );
    expect(part()?.open).toBe(false);
    expect(inside()).toBeNull();
    fireEvent(window, new Event('beforeprint'));
    expect(part()?.open).toBe(true);
    expect(inside()).not.toBeNull();
  });

  it('is drawn when it is opened, and stays as it was when it is closed again', () => {
    draw(
      <Fold title="Every ride">
        <input aria-label="Three rides" />
      </Fold>,
    );
    const details = part() as HTMLDetailsElement;
    details.open = true;
    fireEvent(details, new Event('toggle'));
    fireEvent.change(screen.getByLabelText('Three rides'), { target: { value: 'kept' } });
    details.open = false;
    fireEvent(details, new Event('toggle'));
    expect((screen.getByLabelText('Three rides') as HTMLInputElement).value).toBe('kept');
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
