import core from '../api/core.json';
import type { Traces, Units } from '../api/queries';
import { type FormField, inReaders, lineOf } from '../format/fields';
import { distance, number } from '../format/units';
import { say } from '../words/en/result.ftl';

export type Axis = 'distance' | 'time';

interface ChannelLook {
  label: string;
  voice: string;
  scale: (value: number, units: Units) => number;
  unit: (units: Units) => string;
  digits: number;
}

const VOICES: Record<string, string> = { voltage: 'tide', height: 'kelp' };
/** Channels that are read by their span; of the others the mean says more. */
const SPANNED = new Set(['voltage', 'height', 'charge', 'energy', 'cell_min', 'gauge']);

interface ChannelLine {
  label: string;
  unit: string;
  kind: FormField['kind'] | null;
  decimals: number;
}

const CHANNELS = core.channels as Record<string, ChannelLine>;

/** How a channel of the core's list looks to the reader; one that is not in it comes as it is. */
export function lookOf(name: string): ChannelLook {
  const line = CHANNELS[name];
  const voice = VOICES[name] ?? 'ink';
  if (line === undefined) {
    return { label: name, voice, scale: (v) => v, unit: () => '', digits: 1 };
  }
  const { kind } = line;
  return {
    label: line.label,
    voice,
    scale: kind === null ? (v) => v : (v, units) => inReaders(kind, v, units),
    unit: kind === null ? () => line.unit : (units) => lineOf(kind, units).unit,
    digits: line.decimals,
  };
}

/** Positions along the chosen axis: distance in the rider's unit, or minutes. */
export function positions(traces: Traces, axis: Axis, units: Units): number[] {
  if (axis === 'distance' && traces.distance_m != null) {
    return traces.distance_m.map((metres) => distance(metres, units));
  }
  return traces.time_s.map((seconds) => seconds / 60);
}

/** Lowest to highest, or the mean: what stands beside a trace. */
export function summary(traces: Traces, index: number, units: Units): string {
  const channel = traces.channels[index];
  if (channel === undefined) return '';
  const look = lookOf(channel.name);
  const known = (values: Array<number | null>) => values.filter((value) => value !== null);
  const low = Math.min(...known(channel.low));
  const high = Math.max(...known(channel.high));
  if (!Number.isFinite(low)) return say('not-recorded-here');
  const text = (value: number) => number(look.scale(value, units), look.digits);
  if (SPANNED.has(channel.name)) {
    return say('low-to-high-with-unit', {
      low: text(low),
      high: text(high),
      unit: look.unit(units),
    });
  }
  const means = known(channel.mean);
  const mean = means.reduce((sum, value) => sum + value, 0) / Math.max(means.length, 1);
  return say('mean-text-unit', { text: text(mean), unit: look.unit(units) });
}
