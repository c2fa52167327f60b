// @vitest-environment jsdom
import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { expect, test } from 'vitest';
import type { Result, Units } from '../api/queries';
import { draw } from '../testing/drawn';
import { useWorking } from './useWorking';

const UNITS: Units = { distance: 'mi', mass: 'kg', temperature: '°C', pressure: 'kPa' };
const resultOf = (figures: string[]) =>
  ({ workings: figures.map((figure) => ({ figure })) }) as unknown as Result;

function Figures() {
  const [result, setResult] = useState<Result | null>(null);
  const { opens } = useWorking(result, UNITS);
  return (
    <>
      <span>{opens('plan_on', 'Plan on')}</span>
      <button type="button" onClick={() => setResult(resultOf(['plan_on']))}>
        It came
      </button>
    </>
  );
}

test('a figure opens its formula as soon as its result has one', async () => {
  draw(<Figures />);
  expect(screen.queryByRole('button', { name: 'Plan on' })).toBeNull();
  await userEvent.click(screen.getByRole('button', { name: 'It came' }));
  expect(screen.getByRole('button', { name: 'Plan on' })).toBeTruthy();
});
