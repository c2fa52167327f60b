import { memo } from 'react';
import { Link } from 'react-router';
import { isDue, type Quantity, type TestRow, type Units } from '../api/queries';
import { consumptionFigures, day, distanceFigure } from '../format/units';
import classes from '../logbook/Logbook.module.css';
import { loadAhead } from '../places/parts';
import { isSpan } from '../tideline/spans';
import { Tideline } from '../tideline/Tideline';
import { say } from '../words/en/row.ftl';
import { usePrefetch } from './usePrefetch';

interface LogbookRowProps {
  test: TestRow;
  lengthM: number;
  units: Units;
  chosen?: boolean;
  /** Where rows can be chosen. */
  onChoose?: (id: string, chosen: boolean) => void;
}

/** One test: what it was, its strip, two figures, and how sure they are. */
export const LogbookRow = memo(function LogbookRow(props: LogbookRowProps) {
  const { test, lengthM, units, chosen = false, onChoose } = props;
  const prefetch = usePrefetch();
  const riding = test.state === 'riding';
  const to = riding ? `/ride/${test.id}` : `/tests/${test.id}`;
  const { figures, strip } = test;
  const consumption = figures ? consumptionFigures(figures, units)?.[0] : null;
  const range = figures?.range_to_cutoff ? distanceFigure(figures.range_to_cutoff, units) : null;
  const about = [test.vehicle_name, test.pack_name, test.rider_name].filter(Boolean).join(' · ');
  const nothing =
    isDue(test) && !riding
      ? say('being-worked-out')
      : test.computed === 'failed'
        ? say('not-worked-out')
        : say('not-known');
  return (
    <div className={onChoose && classes.choosable}>
      {onChoose && (
        // The browser's own: Mantine's takes half of the time that a row takes to draw.
        <input
          type="checkbox"
          className={classes.choose}
          aria-label={say('choose-title', { title: test.title })}
          checked={chosen}
          onChange={(event) => onChoose(test.id, event.currentTarget.checked)}
        />
      )}
      <Link
        to={to}
        className={classes.row}
        onPointerEnter={() => loadAhead(to)}
        onFocus={() => loadAhead(to)}
        onClick={() => !riding && prefetch(test.id)}
      >
        <div>
          <div className={classes.title}>{test.title}</div>
          <div className={classes.meta}>
            {riding ? say('under-way') : day(test.started_at)} · {about}
            {test.tags.map((tag) => (
              <span key={tag} className={classes.tag}>
                {tag}
              </span>
            ))}
          </div>
        </div>
        {strip ? (
          <Tideline strip={strip} units={units} lengthM={lengthM} height={42} bare />
        ) : (
          <div className={classes.meta}>{test.trouble}</div>
        )}
        <Cell
          figure={consumption ?? null}
          quantity={figures?.wh_per_km ?? null}
          under={consumption ? `±${consumption.plusMinus}` : ''}
          nothing={nothing}
        />
        <Cell
          figure={range}
          quantity={figures?.range_to_cutoff ?? null}
          under={range ? (figures?.range_measured ? 'measured' : range.span) : ''}
          nothing={nothing}
        />
      </Link>
    </div>
  );
});

interface CellProps {
  figure: { value: string; unit: string; span: string } | null;
  quantity: Quantity | null;
  under: string;
  nothing: string;
}

/** A figure with its whisker; one that is only known as a span is told as that. */
function Cell({ figure, quantity, under, nothing }: CellProps) {
  if (figure === null || quantity === null) {
    return (
      <div className={classes.figure}>
        <div>{nothing}</div>
      </div>
    );
  }
  const thin = isSpan(quantity);
  return (
    <div className={classes.figure}>
      {thin ? <span>{figure.span}</span> : <b>{figure.value}</b>}
      <small>{figure.unit}</small>
      <div>{thin ? say('in-between') : under}</div>
      <Whisker quantity={quantity} />
    </div>
  );
}

/** As wide as the interval is to the figure: a dot is sure, a bar across is not. */
function Whisker({ quantity }: { quantity: Quantity }) {
  const half = (quantity.high - quantity.low) / 2 / Math.max(Math.abs(quantity.value), 1e-9);
  return (
    <span className={classes.whisker} aria-hidden="true">
      <span style={{ width: `${Math.max(6, Math.min(100, 100 * half))}%` }} />
    </span>
  );
}
