/** A sentence of the core's; what stands between asterisks is the heart of it. */
export function Strong({ text }: { text: string }) {
  return text.split('*').map((piece, index) =>
    // biome-ignore lint/suspicious/noArrayIndexKey: the pieces of one sentence do not move
    index % 2 === 1 ? <b key={index}>{piece}</b> : piece,
  );
}
