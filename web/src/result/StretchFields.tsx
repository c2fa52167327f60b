import { Button, TextInput } from '@mantine/core';
import { type FormEvent, useState } from 'react';
import type { Span, Traces, Units } from '../api/queries';
import { say } from '../words/en/result.ftl';
import classes from './Result.module.css';
import { type Axis, positions } from './traces';

interface StretchFieldsProps {
  /** What is shown, and the whole ride. */
  traces: Traces;
  ride: Traces;
  axis: Axis;
  units: Units;
  whole: boolean;
  onShow: (span: Span | null) => void;
}

/** A stretch by its two ends: what a drag over the traces does, for the keyboard. */
export function StretchFields({ traces, ride, axis, units, whole, onShow }: StretchFieldsProps) {
  const x = positions(traces, axis, units);
  const unit = axis === 'distance' && traces.distance_m != null ? units.distance : 'min';
  const [from, setFrom] = useState((x[0] ?? 0).toFixed(2));
  const [to, setTo] = useState((x.at(-1) ?? 0).toFixed(2));
  const [fault, setFault] = useState<string | null>(null);
  function show(event: FormEvent) {
    event.preventDefault();
    const [first, last] = [from, to].map((text) => Number(text.replaceAll(',', '')));
    if (!Number.isFinite(first) || !Number.isFinite(last) || (first ?? 0) >= (last ?? 0)) {
      setFault(say('write-two-numbers-in-the', { unit }));
      return;
    }
    setFault(null);
    const along = positions(ride, axis, units);
    onShow({ from_s: timeAt(ride, along, first ?? 0), to_s: timeAt(ride, along, last ?? 0) });
  }
  return (
    <form className={`${classes.stretch} no-print`} onSubmit={show}>
      <TextInput
        size="xs"
        label={say('from-unit', { unit })}
        value={from}
        inputMode="decimal"
        onChange={(event) => setFrom(event.currentTarget.value)}
      />
      <TextInput
        size="xs"
        label={say('to-unit', { unit })}
        value={to}
        inputMode="decimal"
        onChange={(event) => setTo(event.currentTarget.value)}
      />
      <Button size="xs" type="submit">
        {say('show')}
      </Button>
      {!whole && (
        <Button size="xs" onClick={() => onShow(null)}>
          {say('whole-ride')}
        </Button>
      )}
      {fault && <span role="alert">{fault}</span>}
    </form>
  );
}

/** The time [s] at a place along the axis, between the bins; beyond its ends as far as they go. */
export function timeAt(traces: Traces, x: number[], wanted: number): number {
  const after = x.findIndex((value) => value >= wanted);
  if (after < 0) return traces.time_s.at(-1) ?? 0;
  if (after === 0) return traces.time_s[0] ?? 0;
  const [low = 0, high = 0] = [x[after - 1], x[after]];
  const [begin = 0, end = 0] = [traces.time_s[after - 1], traces.time_s[after]];
  return high > low ? begin + ((wanted - low) / (high - low)) * (end - begin) : begin;
}
