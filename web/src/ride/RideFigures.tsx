import type { Units } from '../api/queries';
import { ALL_FIELDS } from '../entries/fields';
import { shownWithUnit } from '../format/fields';
import { clock, consumptionFigures, percent } from '../format/units';
import { KIND_WORDS } from '../format/words';
import type { Readings } from '../roadside/entry';
import type { Ride } from '../roadside/ride';
import { say } from '../words/en/ride.ftl';
import { EVENTS } from './events';
import { type GaugeKind, gaugeOf } from './gauge';
import classes from './Ride.module.css';
import { type Shown, soFarText } from './shown';

interface RideFiguresProps {
  ride: Ride;
  shown: Shown;
  units: Units;
  onEntry: (entryId: string) => void;
  onRemove: (entryId: string) => void;
}

/** How far so far, at what cost, and what was noted last. */
export function RideFigures({ ride, shown, units, onEntry, onRemove }: RideFiguresProps) {
  const consumption = shown.consumption ? consumptionFigures(shown.consumption, units)?.[0] : null;
  const last = ride.entries.at(-1);
  return (
    <>
      <div className={classes.figures}>
        <div>
          <i>{say('so-far')}</i>
          <b>
            {soFarText(shown, units)}
            <small> {units.distance}</small>
          </b>
          <i>
            {say('count-entries', { count: ride.entries.length })}
            {shown.soFarWords && `; ${shown.soFarWords}`}
          </i>
        </div>
        <div>
          <i>{say('consumption')}</i>
          <b>
            {consumption?.value ?? '–'}
            <small> Wh/{units.distance}</small>
          </b>
          <i>
            {consumption
              ? `±${consumption.plusMinus}`
              : shown.state === 'device'
                ? say('when-there-is-a-signal')
                : say('not-yet')}
          </i>
        </div>
      </div>
      {last && (
        <div className={classes.last}>
          <button type="button" onClick={() => onEntry(last.id)}>
            {say('last-describe-entry', {
              describe_entry: describeEntry(last, ride.started_at, units, gaugeOf(ride)),
            })}
          </button>
          {ride.state === 'riding' && (
            <button type="button" onClick={() => onRemove(last.id)}>
              {say('remove')}
            </button>
          )}
        </div>
      )}
    </>
  );
}

/** What a gauge showed, with what it counts in; by its size where nobody said. */
function gaugeText(value: number, gauge: GaugeKind | null): string {
  if (gauge?.kind === 'percent' || (gauge === null && value > 10)) return percent(value / 100);
  return gauge === null
    ? say('gauge-value', { value })
    : say('value-of-steps-kind', { value, steps: gauge.steps, kind: gauge.kind });
}

/** An entry in a line: what it was, when, and the first of its readings. */
export function describeEntry(
  entry: Readings,
  startedAt: string | null,
  units: Units,
  gauge: GaugeKind | null = null,
): string {
  const parts = ALL_FIELDS.flatMap((field) => {
    const value = entry[field.name as keyof Readings];
    if (typeof value !== 'number') return [];
    return [field.name === 'gauge' ? gaugeText(value, gauge) : shownWithUnit(field, value, units)];
  });
  const words = [entry.place, entry.mode, entry.photo ? say('picture') : null].filter(
    (word): word is string => Boolean(word),
  );
  const readings = [...words, ...parts].slice(0, 4);
  return [`${wordOf(entry)} ${clock(startedAt, entry.time_s)}`, ...readings].join(', ');
}

/** What an entry is called: an event by what happened. */
export function wordOf(entry: Pick<Readings, 'kind' | 'what' | 'shown_range_m'>): string {
  const promised = entry.shown_range_m != null;
  const happened =
    entry.kind === 'event'
      ? EVENTS.find((event) => event.what === entry.what && (event.name === 'shown') === promised)
          ?.label
      : undefined;
  return happened?.toLowerCase() ?? KIND_WORDS[entry.kind] ?? entry.kind;
}
