import { MultiSelect, SegmentedControl } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { type Span, type Strip, type TestDetail, tracesQuery, type Units } from '../api/queries';
import { reachOf } from '../tideline/geometry';
import { Trouble } from '../ui/Page';
import { say } from '../words/en/result.ftl';
import classes from './Result.module.css';
import { RideMap } from './RideMap';
import { StretchFields } from './StretchFields';
import { StretchLine } from './StretchLine';
import { TraceChart } from './TraceChart';
import { type Axis, lookOf } from './traces';

interface TracesSectionProps {
  test: TestDetail;
  strip: Strip;
  units: Units;
  cursorM: number | null;
  onCursor: (metres: number | null) => void;
}

/** Channels drawn at once; the server takes no more. */
const MOST_CHANNELS = 8;
const NO_CHOICE: readonly string[] = [];

/** What the logger saw, on the strip's own distance axis, with one cursor over all. */
export function TracesSection({ test, strip, units, cursorM, onCursor }: TracesSectionProps) {
  const [axis, setAxis] = useState<Axis>('distance');
  const [span, setSpan] = useState<Span | null>(null);
  const [channels, setChannels] = useState<readonly string[]>(NO_CHOICE);
  const traces = useQuery(tracesQuery(test.id, span, channels));
  // Where a distance was is looked up over the whole ride, whatever part of it is shown.
  const ride = useQuery(tracesQuery(test.id, null)).data;
  // As high as what comes, so that nothing below it moves.
  if (traces.isPending) {
    return <div style={{ height: test.path ? '56rem' : '36rem' }} aria-busy />;
  }
  if (traces.data === undefined) {
    return <Trouble error={traces.error} onRetry={() => traces.refetch()} />;
  }
  if (traces.data === null) return null;
  const shown = traces.data.channels.map((channel) => channel.name);
  const whole = span === null;
  return (
    <section
      className={`${classes.section} ${classes.traces}`}
      aria-label={say('traces')}
      data-part
    >
      <div className={`${classes.sectionHead} no-print`}>
        <h2>{say('traces')}</h2>
        <SegmentedControl
          size="xs"
          aria-label={say('axis')}
          data={[
            { value: 'distance', label: say('by-distance') },
            { value: 'time', label: say('by-time') },
          ]}
          value={axis}
          onChange={(value) => setAxis(value as Axis)}
        />
        <MultiSelect
          size="xs"
          className={classes.channels}
          aria-label={say('traces-shown')}
          data={traces.data.available.map((name) => ({ value: name, label: lookOf(name).label }))}
          // What was chosen, not what has come: two quick choices are both heard.
          value={channels.length > 0 ? [...channels] : shown}
          maxValues={MOST_CHANNELS}
          onChange={(names) => setChannels(names.length > 0 ? names : NO_CHOICE)}
        />
      </div>
      <StretchFields
        key={`${traces.data.stretch.from_s}-${traces.data.stretch.to_s}-${axis}`}
        traces={traces.data}
        ride={ride ?? traces.data}
        axis={axis}
        units={units}
        whole={whole}
        onShow={setSpan}
      />
      <TraceChart
        traces={traces.data}
        axis={axis}
        units={units}
        whole={whole}
        lengthM={reachOf(strip) * 1.04}
        startedAt={test.started_at}
        cursorM={cursorM}
        onCursor={onCursor}
        onSelect={setSpan}
      />
      <StretchLine stretch={traces.data.stretch} whole={whole} units={units} />
      {test.path && (
        <RideMap
          test={test}
          path={test.path}
          strip={strip}
          units={units}
          cursorM={cursorM}
          span={span}
          onCursor={onCursor}
        />
      )}
    </section>
  );
}
