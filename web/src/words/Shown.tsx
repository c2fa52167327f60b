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

/** A sentence with elements in it, so that it stays one sentence for whoever translates it. */
export function Shown({ say, id, values = {}, parts }: ShownProps) {
  const spoken = new ReactLocalization([say.bundle]);
  // biome-ignore lint/complexity/noUselessFragments: it is what the sentence is put into.
  return spoken.getElement(<></>, id, { vars: taken(values), elems: parts });
}
