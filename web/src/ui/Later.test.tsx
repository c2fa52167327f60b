// @vitest-environment jsdom
import { fireEvent, screen } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import { draw } from '../testing/drawn';
import { Later } from './Later';

test('what lies below comes after what stands above, by itself', async () => {
  draw(<Later>Legs</Later>);
  expect(screen.queryByText('Legs')).toBeNull();
  expect(await screen.findByText('Legs')).toBeTruthy();
});

test('on paper it is there at once', () => {
  vi.useFakeTimers();
  draw(<Later>Legs</Later>);
  expect(screen.queryByText('Legs')).toBeNull();
  fireEvent(window, new Event('beforeprint'));
  expect(screen.queryByText('Legs')).not.toBeNull();
  vi.useRealTimers();
});
