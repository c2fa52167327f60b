import type { Strip, Units } from '../api/queries';
import { decimals, number } from '../format/number';
import { distance, distanceText, percent } from '../format/units';
import { KIND_WORDS } from '../format/words';
import { say } from '../words/en/tideline.ftl';
import { eventText, markText } from './labels';

/** Readings that are said one by one; a ride with more has them in its table. */
const MOST_SAID = 12;

/** What the drawing says at a glance: how far, what is left, and where it ends. */
export function sentence(strip: Strip, units: Units): string {
  const ridden =
    strip.ridden_m == null ? say('an-unknown-distance') : distanceText(strip.ridden_m, units);
  const left = strip.energy_left.at(-1);
  const ebbed =
    left === undefined
      ? say('the-energy-left-is-not')
      : say('of-the-energy-left', { left: percent(left) });
  return say('tideline-ridden-ridden-ebbed-end', { ridden, ebbed, end: endText(strip, units) });
}

function endText(strip: Strip, units: Units): string {
  if (strip.cutoff_m == null) return '';
  const [low = 0, value = low, high = value] = strip.cutoff_m;
  if (strip.measured) return say('cut-off-came', { cutoff: distanceText(value, units) });
  const inReaders = (metres: number) =>
    number(distance(metres, units), decimals(distance(high, units)));
  const span = say('low-to-high', { low: inReaders(low), high: inReaders(high) });
  return say('cut-off-is-expected', { cutoff: distanceText(value, units), span });
}

/** The same for whoever does not see it: with the reserve, and every reading in its order. */
export function inWords(strip: Strip, units: Units): string {
  return [sentence(strip, units), reserveText(strip, units), ...readings(strip, units)]
    .filter(Boolean)
    .join(' ');
}

/** Where the line comes down to the reserve, on what was ridden or on the way to cut-off [m]; null where it does not. */
export function reserveAt(strip: Strip): number | null {
  const ends = strip.cutoff_m?.[1];
  const along = [...strip.distance_m, ...(ends == null || strip.measured ? [] : [ends])];
  const left = [...strip.energy_left, ...(ends == null || strip.measured ? [] : [0])];
  for (let k = 1; k < along.length; k += 1) {
    const [from = 0, to = from] = [left[k - 1], left[k]];
    if (from > strip.reserve && to <= strip.reserve) {
      const part = (from - strip.reserve) / (from - to);
      return (along[k - 1] ?? 0) + part * ((along[k] ?? 0) - (along[k - 1] ?? 0));
    }
  }
  return null;
}

function reserveText(strip: Strip, units: Units): string {
  const at = reserveAt(strip);
  if (at === null) return '';
  const values = { reserve: percent(strip.reserve), at: distanceText(at, units) };
  const ridden = at <= (strip.distance_m.at(-1) ?? 0);
  return ridden ? say('down-to-the-reserve', values) : say('the-reserve-comes', values);
}

function readings(strip: Strip, units: Units): string[] {
  const marks = strip.marks.filter((mark) => mark.kind !== 'settle');
  const said = marks.slice(-MOST_SAID).map((mark) => {
    const what =
      mark.kind === 'event'
        ? eventText(mark)
        : markText(mark.kind, mark.voltage_v) || KIND_WORDS[mark.kind];
    return say('a-reading-in-words', {
      at: distanceText(mark.distance_m, units),
      what,
      left:
        mark.energy_left == null ? '' : say('so-much-left', { left: percent(mark.energy_left) }),
    });
  });
  if (said.length === 0) return [];
  return [say('readings-in-words', { more: marks.length - said.length, said: said.join('; ') })];
}
