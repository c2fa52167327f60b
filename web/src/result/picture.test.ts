// @vitest-environment jsdom
import { expect, test } from 'vitest';
import { withoutRider } from './PictureDialog';

test('a picture that may go anywhere names nobody', () => {
  const verdict = [
    { message: 'It used *14.1 watt-hours a mile*.' },
    { message: 'Ridden like this, the pack takes Tobias 67.5 miles to cut-off.' },
  ] as Parameters<typeof withoutRider>[0]['verdict'];
  expect(withoutRider({ verdict }, 'Tobias')).toBe(
    'It used *14.1 watt-hours a mile*. Ridden like this, the pack takes the rider 67.5 miles to cut-off.',
  );
  expect(withoutRider({ verdict }, '')).toContain('Tobias');
});
