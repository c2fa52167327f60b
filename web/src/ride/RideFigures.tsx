import type { Entry, TestDetail, Units } from '../api/queries';
import { ENTRY_FIELDS, readingOf } from '../entries/fields';
import { useRemoveEntry } from '../entries/useRemoveEntry';
import { shownWithUnit } from '../format/fields';
import { clock, consumptionFigures, distanceFigure } from '../format/units';
import { KIND_WORDS } from '../format/words';
import classes from './Ride.module.css';
import type { Noting } from './useNote';

interface RideFiguresProps {
  test: TestDetail;
  units: Units;
  noting: Noting;
}

/** How far so far, at what cost, and what was noted last. */
export function RideFigures({ test, units }: RideFiguresProps) {
  const remove = useRemoveEntry(test.id);
  const ridden = test.result?.distance ? distanceFigure(test.result.distance, units) : null;
  const consumption = test.figures ? consumptionFigures(test.figures, units)?.[0] : null;
  const last = test.entries.at(-1);
  return (
    <>
      <div className={classes.figures}>
        <div>
          <i>so far</i>
          <b>
            {ridden?.value ?? '–'}
            <small> {units.distance}</small>
          </b>
          <i>{test.entries.length === 1 ? '1 entry' : `${test.entries.length} entries`}</i>
        </div>
        <div>
          <i>consumption</i>
          <b>
            {consumption?.value ?? '–'}
            <small> Wh/{units.distance}</small>
          </b>
          <i>{consumption ? `± ${consumption.plusMinus}` : 'not yet'}</i>
        </div>
      </div>
      {last && (
        <div className={classes.last}>
          <span>
            Last: {KIND_WORDS[last.kind]} {clock(test.started_at, last.time_s)}
            {readings(last, units)}
          </span>
          {test.state === 'riding' && (
            <button type="button" onClick={() => remove.mutate(last)}>
              Remove
            </button>
          )}
        </div>
      )}
    </>
  );
}

function readings(entry: Entry, units: Units): string {
  const parts = ENTRY_FIELDS.flatMap((field) => {
    const value = readingOf(entry, field.name);
    return value === null ? [] : [shownWithUnit(field, value, units)];
  });
  return parts.length === 0 ? '' : `, ${parts.slice(0, 4).join(', ')}`;
}
