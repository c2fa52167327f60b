import type { Question } from '../api/queries';
import { addressOf, type Sides } from './sides';

/** What is chosen before two tests are compared. */
export interface Choice {
  first: string | null;
  second: string | null;
  question: Question | null;
  /** Whether it stays hidden which is which until the rider has said what they see. */
  blind: boolean;
}

/** As the address has it; a side may be chosen already. */
export function choiceFrom(sides: Sides): Choice {
  return {
    first: sides.first[0] ?? null,
    second: sides.second[0] ?? null,
    question: null,
    blind: false,
  };
}

/** After one more choice; a test is not compared with itself. */
export function chosenAfter(before: Choice, change: Partial<Choice>): Choice {
  const after = { ...before, ...change };
  return after.first !== null && after.first === after.second ? { ...after, second: null } : after;
}

/** Where the two chosen ones are compared; null while one is missing. */
export function addressOfChosen({ first, second, question, blind }: Choice): string | null {
  if (first === null || second === null) return null;
  return addressOf({ first: [first], second: [second] }, question) + (blind ? '&blind=1' : '');
}
