import { expect, test } from 'vitest';
import { roundStep } from './WhatIf';

test('a slider moves by round steps of the reader’s unit', () => {
  // Half a metre a second in mph and km/h; a kilogram in pounds and stone; ten kilopascals in psi and bar.
  expect([0.5 / 0.44704, 0.5 / 0.27778].map(roundStep)).toEqual([1, 1]);
  expect([1 / 0.45359, 1 / 6.35029].map(roundStep)).toEqual([2, 0.1]);
  expect([10 / 6.89476, 10 / 100, 10 / 1].map(roundStep)).toEqual([1, 0.1, 10]);
});
