/** The trade's words for what the API names. */
export const METHOD_WORDS: Record<string, string> = {
  sampled: 'volts × amps, sampled',
  energy_counter: 'meter’s watt-hours',
  charge_counter: 'amp-hours × volts',
  rest_voltage: 'rest volts, curve',
  rated: 'the label',
  laps: 'laps × length',
  gps: 'track',
  trip: 'trip meter',
  odometer: 'odometer',
  samples: 'logger’s distance',
};

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

export const PURPOSES = [
  { value: 'floor', label: 'What is the least I can count on?' },
  { value: 'everyday', label: 'How far on my real mix of roads?' },
  { value: 'economy', label: 'How far at most, ridden gently?' },
  { value: 'claim', label: 'Does the maker’s figure hold?' },
  { value: 'compare', label: 'Which of two uses less?' },
  { value: 'ageing', label: 'How much has the pack lost?' },
  { value: 'temperature', label: 'What do winter and summer do?' },
  { value: 'commute', label: 'Will this pack do that trip?' },
] as const;

export const END_REASONS = [
  { value: 'home', label: 'Got where I was going' },
  { value: 'reserve', label: 'Down to the reserve' },
  { value: 'cutoff', label: 'Drive cut off' },
  { value: 'protect', label: 'Protection tripped' },
  { value: 'speed_floor', label: 'Too slow to go on' },
  { value: 'aborted', label: 'Given up' },
] as const;

export function labelOf(
  list: ReadonlyArray<{ value: string; label: string }>,
  value: string | null | undefined,
): string {
  return list.find((item) => item.value === value)?.label ?? value ?? '';
}
