import { Explained } from './Explained';

/** A sentence of the core's; what stands between asterisks is the heart of it. */
export function Strong({ text }: { text: string }) {
  return text.split('*').map((piece, index) =>
    index % 2 === 1 ? (
      // biome-ignore lint/suspicious/noArrayIndexKey: the pieces of one sentence do not move
      <b key={index}>
        <Explained text={piece} />
      </b>
    ) : (
      // biome-ignore lint/suspicious/noArrayIndexKey: the pieces of one sentence do not move
      <Explained key={index} text={piece} />
    ),
  );
}
