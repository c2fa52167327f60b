import core from '../api/core.json';
import { say } from '../words/en/format.ftl';

/** The trade's words for what the API names. */
export const METHOD_WORDS: Record<string, string> = core.methods;

/** What is said for safety, each sentence once. */
export const SAFETY = core.safety;

export const KIND_WORDS: Record<string, string> = {
  start: say('start'),
  checkpoint: say('entry'),
  lap: say('lap'),
  stop: say('stop'),
  resume: say('go-on-here'),
  turn: say('turn'),
  swap: say('pack-swap'),
  event: say('event'),
  settle: say('settled'),
  end: say('end'),
};

type List = keyof typeof core.choices;

/** A list to choose from, in the core's words and order. */
export function listOf<L extends List>(name: L) {
  return Object.entries(core.choices[name]).map(([value, label]) => ({
    value: value as keyof (typeof core.choices)[L] & string,
    label,
  }));
}

/** The same by a name that the core gave. */
export function choicesOf(name: string): Array<{ value: string; label: string }> {
  return name in core.choices ? listOf(name as List) : [];
}

export const VEHICLE_KINDS = listOf('vehicle_kind');

export const CHEMISTRIES = listOf('chemistry');

/** The eight questions. */
export const PURPOSES = listOf('purpose');
export type Purpose = (typeof PURPOSES)[number]['value'];

export const END_REASONS = listOf('end_reason');

export const SURFACES = listOf('surface');

export const POLICIES = listOf('speed_policy');

export const END_RULES = listOf('end_rule');

/** How a trip uses several packs. */
export const PACK_USES = listOf('packs_use').filter(
  (item) => item.value !== 'single' && item.value !== 'spare',
);

/** What a forecast's inputs are called where they are ranked. */
export const INPUT_WORDS: Record<string, string> = Object.fromEntries(
  Object.entries(core.inputs).map(([name, input]) => [name, input.label]),
);

export const VERDICTS: Record<string, string> = {
  not_possible: say('not-possible'),
  gentle_and_light: say('gentle-and-light-only'),
  up_to_a_speed: say('up-to-a-speed'),
  normal: say('fair'),
  modest: say('modest'),
};

export function labelOf(
  list: ReadonlyArray<{ value: string; label: string }>,
  value: string | null | undefined,
): string {
  return list.find((item) => item.value === value)?.label ?? value ?? '';
}

/** What the parts of a result's budget are called. */
export const PART_WORDS: Record<string, string> = core.parts;

export function partWords(name: string): string {
  return PART_WORDS[name] ?? name.replaceAll('_', ' ');
}
