import core from '../api/core.json';

/** The trade's words for what the API names. */
export const METHOD_WORDS: Record<string, string> = core.methods;

/** What is said for safety, each sentence once. */
export const SAFETY = core.safety;

export const KIND_WORDS: Record<string, string> = {
  start: 'start',
  checkpoint: 'entry',
  lap: 'lap',
  stop: 'stop',
  resume: 'go on',
  turn: 'turn',
  swap: 'pack swap',
  event: 'event',
  settle: 'settled',
  end: 'end',
};

export const VEHICLE_KINDS = [
  { value: 'kick_scooter', label: 'Kick scooter' },
  { value: 'bicycle', label: 'Bicycle' },
  { value: 'trike', label: 'Trike' },
  { value: 'moped', label: 'Moped' },
  { value: 'motorcycle', label: 'Motorcycle' },
  { value: 'skateboard', label: 'Board' },
  { value: 'fast_bicycle', label: 'Fast bicycle' },
  { value: 'light_motorcycle', label: 'Light motorcycle' },
  { value: 'self_balancing', label: 'Self-balancing' },
  { value: 'conversion', label: 'Conversion' },
  { value: 'other', label: 'Other' },
] as const;

export const CHEMISTRIES = [
  { value: 'nmc', label: 'NMC (layered oxide)' },
  { value: 'nca', label: 'NCA (layered oxide)' },
  { value: 'lfp', label: 'LFP (iron phosphate)' },
  { value: 'lmo', label: 'LMO (manganese)' },
  { value: 'lead_acid_agm', label: 'Lead-acid, AGM' },
  { value: 'lead_acid_flooded', label: 'Lead-acid, flooded' },
] as const;

export type Purpose = keyof typeof core.questions;

/** The eight questions. */
export const PURPOSES = Object.entries(core.questions).map(([value, label]) => ({
  value: value as Purpose,
  label,
}));

export const END_REASONS = [
  { value: 'home', label: 'Got where I was going' },
  { value: 'reserve', label: 'Down to the reserve' },
  { value: 'cutoff', label: 'Drive cut off' },
  { value: 'protect', label: 'Protection tripped' },
  { value: 'speed_floor', label: 'Too slow to go on' },
  { value: 'aborted', label: 'Given up' },
] as const;

export const SURFACES = [
  { value: 'smooth_paved', label: 'Smooth paving' },
  { value: 'rough_paved', label: 'Rough paving' },
  { value: 'wet_paved', label: 'Wet paving' },
  { value: 'mixed', label: 'Mixed' },
  { value: 'gravel', label: 'Gravel' },
  { value: 'dirt', label: 'Dirt' },
  { value: 'grass', label: 'Grass' },
] as const;

export const POLICIES = [
  { value: 'fixed', label: 'One speed, held' },
  { value: 'with_traffic', label: 'With the traffic' },
  { value: 'gentle', label: 'Gently' },
  { value: 'flat_out', label: 'Flat out' },
] as const;

export const END_RULES = [
  { value: 'route_end', label: 'At the end of the route' },
  { value: 'gauge_reserve', label: 'At the reserve, by the gauge' },
  { value: 'voltage_reserve', label: 'At the reserve, by volts' },
  { value: 'speed_floor', label: 'When it is too slow' },
  { value: 'cutoff', label: 'When the drive cuts off' },
] as const;

export const PACK_USES = [
  { value: 'in_sequence', label: 'One after the other' },
  { value: 'in_parallel', label: 'Side by side' },
] as const;

/** What a forecast's inputs are called where they are ranked. */
export const INPUT_WORDS: Record<string, string> = Object.fromEntries(
  Object.entries(core.inputs).map(([name, input]) => [name, input.label]),
);

export const VERDICTS: Record<string, string> = {
  not_possible: 'not possible',
  gentle_and_light: 'gentle and light only',
  up_to_a_speed: 'up to a speed',
  normal: 'fair',
  modest: 'modest',
};

export function labelOf(
  list: ReadonlyArray<{ value: string; label: string }>,
  value: string | null | undefined,
): string {
  return list.find((item) => item.value === value)?.label ?? value ?? '';
}
