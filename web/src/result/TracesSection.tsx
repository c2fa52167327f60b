import { SegmentedControl, useComputedColorScheme } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { type Span, type Strip, tracesQuery, type Units } from '../api/queries';
import { reachOf } from '../tideline/geometry';
import { Trouble, Waiting } from '../ui/Page';
import classes from './Result.module.css';
import { TraceChart } from './TraceChart';
import { TraceTable } from './TraceTable';
import type { Axis } from './traceOptions';

interface TracesSectionProps {
  testId: string;
  startedAt: string | null | undefined;
  strip: Strip;
  units: Units;
  onCursor: (metres: number | null) => void;
}

/** What the logger saw, on the strip's own distance axis, with one cursor over all. */
export function TracesSection({ testId, startedAt, strip, units, onCursor }: TracesSectionProps) {
  const [axis, setAxis] = useState<Axis>('distance');
  const [span, setSpan] = useState<Span | null>(null);
  const scheme = useComputedColorScheme('light');
  const traces = useQuery(tracesQuery(testId, span));
  if (traces.isPending) return <Waiting rows={4} height={48} />;
  if (traces.data === undefined) {
    return <Trouble error={traces.error} onRetry={() => traces.refetch()} />;
  }
  if (traces.data === null) return null;
  const { time_s } = traces.data;
  const zoom = (factor: number) => {
    const first = time_s[0] ?? 0;
    const last = time_s.at(-1) ?? 1;
    const middle = (first + last) / 2;
    const half = ((last - first) / 2) * factor;
    setSpan({ from_s: middle - half, to_s: middle + half });
  };
  const shift = (part: number) => {
    const first = time_s[0] ?? 0;
    const last = time_s.at(-1) ?? 1;
    const by = (last - first) * part;
    setSpan({ from_s: first + by, to_s: last + by });
  };
  const whole = span === null;
  return (
    <section className={classes.section} aria-label="Traces">
      <div className={classes.sectionHead}>
        <SegmentedControl
          size="xs"
          aria-label="Axis"
          data={[
            { value: 'distance', label: 'by distance' },
            { value: 'time', label: 'by time' },
          ]}
          value={axis}
          onChange={(value) => setAxis(value as Axis)}
        />
        <button type="button" className={classes.link} onClick={() => zoom(0.5)}>
          Zoom in
        </button>
        {!whole && (
          <>
            <button type="button" className={classes.link} onClick={() => shift(-0.5)}>
              Back
            </button>
            <button type="button" className={classes.link} onClick={() => shift(0.5)}>
              On
            </button>
            <button type="button" className={classes.link} onClick={() => setSpan(null)}>
              Whole ride
            </button>
          </>
        )}
        <span />
      </div>
      <TraceChart
        // A new scheme means new ink; the chart reads the colours once.
        key={scheme}
        traces={traces.data}
        axis={axis}
        units={units}
        whole={whole}
        lengthM={reachOf(strip) * 1.04}
        startedAt={startedAt}
        onCursor={onCursor}
      />
      <TraceTable traces={traces.data} units={units} startedAt={startedAt} />
    </section>
  );
}
