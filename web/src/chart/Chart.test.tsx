// @vitest-environment jsdom
import { fireEvent, screen } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import { draw } from '../testing/drawn';
import { Chart } from './Chart';

const stops = [
  { at: 0, said: 'at the start 54 V' },
  { at: 10, said: 'half way 50 V' },
  { at: 20, said: 'at the end 46 V' },
];

function chart(onCursor?: (stop: number | null) => void, at?: number) {
  return (
    <Chart
      name="Volts over distance"
      said="Volts over distance: 54 to 46 V"
      height={200}
      x={{ title: 'distance, mi', domain: [0, 20] }}
      y={{ title: 'volts, V', domain: [40, 60] }}
      values={{ columns: ['mi', 'V'], rows: stops.map(({ at: mi }, k) => [mi, 54 - 4 * k]) }}
      stops={stops}
      {...(onCursor && { onCursor })}
      {...(at !== undefined && { at })}
    >
      {({ x, y }) => <circle cx={x(10)} cy={y(50)} r={3} />}
    </Chart>
  );
}

test('a drawing says what it shows, names its axes and has its values behind it', async () => {
  draw(chart());
  expect(screen.getByRole('img', { name: 'Volts over distance: 54 to 46 V' })).toBeTruthy();
  expect(screen.getByText('distance, mi')).toBeTruthy();
  expect(screen.getByText('volts, V')).toBeTruthy();
  expect(screen.queryByRole('table')).toBeNull();
  fireEvent.click(screen.getByRole('button', { name: 'As a table' }));
  expect(screen.getAllByRole('row').length).toBe(4);
});

test('its cursor is moved by key, reads each value aloud and tells the other drawings', () => {
  const moved = vi.fn();
  draw(chart(moved));
  const keys = screen.getByRole('slider', { name: 'Read Volts over distance value by value' });
  fireEvent.change(keys, { target: { value: '1' } });
  expect(keys.getAttribute('aria-valuetext')).toBe('half way 50 V');
  expect(screen.getByText('half way 50 V')).toBeTruthy();
  expect(moved).toHaveBeenLastCalledWith(1);
  fireEvent.blur(keys);
  expect(screen.queryByText('half way 50 V')).toBeNull();
  expect(moved).toHaveBeenLastCalledWith(null);
});

test('its cursor stands where another drawing put it', () => {
  draw(chart(undefined, 19));
  expect(screen.getByText('at the end 46 V')).toBeTruthy();
});
