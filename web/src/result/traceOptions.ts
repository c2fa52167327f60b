import type { EChartsCoreOption } from 'echarts/core';
import core from '../api/core.json';
import type { Traces, Units } from '../api/queries';
import { type FormField, inReaders, lineOf } from '../format/fields';
import { distance, number } from '../format/units';

/** A row holds its label and, under it, the plot [px]. */
export const ROW_HEIGHT = 70;
export const PLOT_HEIGHT = 44;
export const TOP = 22;

export type Axis = 'distance' | 'time';

interface ChannelLook {
  label: string;
  voice: string;
  scale: (value: number, units: Units) => number;
  unit: (units: Units) => string;
  digits: number;
}

const VOICES: Record<string, string> = { voltage: '--tide', height: '--kelp' };
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
  const voice = VOICES[name] ?? '--ink';
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
  if (!Number.isFinite(low)) return 'not recorded here';
  const text = (value: number) => number(look.scale(value, units), look.digits);
  if (SPANNED.has(channel.name)) {
    return `${text(low)} – ${text(high)} ${look.unit(units)}`;
  }
  const means = known(channel.mean);
  const mean = means.reduce((sum, value) => sum + value, 0) / Math.max(means.length, 1);
  return `mean ${text(mean)} ${look.unit(units)}`;
}

function colour(name: string): string {
  return getComputedStyle(document.documentElement).getPropertyValue(name).trim();
}

/** Where the plots lie within the drawing [px]. */
export const PLOT_LEFT = 8;
export const PLOT_RIGHT = 24;

/** One chart with a grid per channel and one cursor over all. */
export function traceOptions(
  traces: Traces,
  axis: Axis,
  units: Units,
  lengthM: number,
): EChartsCoreOption {
  const x = positions(traces, axis, units);
  const soft = colour('--soft');
  const hair = colour('--hair');
  const last = traces.channels.length - 1;
  const byDistance = axis === 'distance' && traces.distance_m != null;
  const max = byDistance ? distance(lengthM, units) : undefined;
  const series = traces.channels.flatMap((channel, index) => {
    const look = lookOf(channel.name);
    const pairs = (values: Array<number | null>) =>
      values.map((value, at) => [x[at], value === null ? null : look.scale(value, units)]);
    const common = {
      type: 'line',
      xAxisIndex: index,
      yAxisIndex: index,
      showSymbol: false,
      silent: true,
      animation: false,
      connectNulls: false,
    };
    const line = colour(look.voice);
    const itemStyle = { color: line };
    return [
      {
        ...common,
        data: pairs(channel.high),
        lineStyle: { width: 0.7, color: line, opacity: 0.3 },
      },
      {
        ...common,
        itemStyle,
        data: pairs(channel.low),
        lineStyle: { width: 0.7, color: line, opacity: 0.3 },
      },
      { ...common, itemStyle, data: pairs(channel.mean), lineStyle: { width: 1.4, color: line } },
    ];
  });
  return {
    animation: false,
    grid: traces.channels.map((_, index) => ({
      left: PLOT_LEFT,
      right: PLOT_RIGHT,
      top: TOP + index * ROW_HEIGHT,
      height: PLOT_HEIGHT,
    })),
    xAxis: traces.channels.map((_, index) => ({
      type: 'value',
      gridIndex: index,
      min: byDistance ? 0 : x[0],
      max: max ?? x.at(-1),
      axisLine: { lineStyle: { color: hair }, onZero: false },
      axisTick: { show: false },
      splitLine: { show: false },
      axisLabel: { show: index === last, color: soft, fontSize: 12, showMaxLabel: false },
      axisPointer: { show: true, snap: false, label: { show: false } },
    })),
    yAxis: traces.channels.map((_, index) => ({
      type: 'value',
      gridIndex: index,
      scale: true,
      show: false,
      axisPointer: { show: false },
    })),
    axisPointer: {
      link: [{ xAxisIndex: 'all' }],
      lineStyle: { color: colour('--ink'), width: 1, type: 'solid' },
    },
    tooltip: { trigger: 'axis', showContent: false },
    series,
  };
}
