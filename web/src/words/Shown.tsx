import type { FluentBundle } from '@fluent/bundle';
import { ReactLocalization } from '@fluent/react';
import type { ReactElement } from 'react';
import { type Say, taken, type Values } from './sayer';

interface ShownProps {
  /** What says the room's sentences. */
  say: Say;
  id: string;
  values?: Values;
  /** The elements that the sentence names, such as <a> for a link. */
  parts: Record<string, ReactElement>;
}

/** One for each room, made when it is first wanted. */
const SPOKEN = new WeakMap<FluentBundle, ReactLocalization>();

function spokenBy({ bundle }: Say): ReactLocalization {
  const made = SPOKEN.get(bundle) ?? new ReactLocalization([bundle]);
  SPOKEN.set(bundle, made);
  return made;
}

/** A sentence with elements in it, so that it stays one sentence for whoever translates it. */
export function Shown({ say, id, values = {}, parts }: ShownProps) {
  // biome-ignore lint/complexity/noUselessFragments: it is what the sentence is put into.
  return spokenBy(say).getElement(<></>, id, { vars: taken(values), elems: parts });
}
