import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef } from 'react';
import type { Units } from '../api/queries';
import { LogbookRow } from '../row/LogbookRow';
import type { Line } from './filter';
import classes from './Logbook.module.css';

interface LogbookListProps {
  lines: Line[];
  count: number;
  lengthM: number;
  units: Units;
  chosen: ReadonlySet<string>;
  onChoose: (id: string, chosen: boolean) => void;
  /** More rows are wanted: the end of those that have come is near. */
  onNear: () => void;
}

/** About as high as a row and a heading are [px]; each is measured once it is drawn. */
const ROW_PX = 75;
const HEADING_PX = 44;
/** Rows drawn beyond what is seen, and how near to the end the next ones are asked for. */
const BEYOND = 5;

/** The rows that can be seen, and some beyond; however many there are, no more are drawn. */
export function LogbookList(props: LogbookListProps) {
  const { lines, count, lengthM, units, chosen, onChoose, onNear } = props;
  const list = useRef<HTMLUListElement>(null);
  const rows = useWindowVirtualizer({
    count: lines.length,
    estimateSize: (index) => (lines[index]?.kind === 'heading' ? HEADING_PX : ROW_PX),
    overscan: BEYOND,
    scrollMargin: list.current?.offsetTop ?? 0,
    getItemKey: (index) => lines[index]?.key ?? index,
  });
  const drawn = rows.getVirtualItems();
  const last = drawn.at(-1)?.index ?? 0;
  const isNear = last >= lines.length - 1 - BEYOND;
  useEffect(() => {
    if (isNear) onNear();
  }, [isNear, onNear]);
  return (
    <ul ref={list} className={classes.list} style={{ height: rows.getTotalSize() }}>
      {drawn.map((item) => {
        const line = lines[item.index];
        if (line === undefined) return null;
        return (
          <li
            key={item.key}
            data-index={item.index}
            ref={rows.measureElement}
            className={classes.line}
            style={{ transform: `translateY(${item.start - rows.options.scrollMargin}px)` }}
            aria-setsize={count}
            aria-posinset={item.index + 1}
          >
            {line.kind === 'heading' ? (
              <h2 className={classes.group}>{line.text}</h2>
            ) : (
              <LogbookRow
                test={line.test}
                lengthM={lengthM}
                units={units}
                chosen={chosen.has(line.test.id)}
                onChoose={onChoose}
              />
            )}
          </li>
        );
      })}
    </ul>
  );
}
