/** A word of a sentence, and whether it is the heart of it. */
export interface Word {
  text: string;
  bold: boolean;
}

/** Words of a sentence of the core's; what stands between asterisks is bold. */
export function wordsOf(sentence: string): Word[] {
  return sentence.split('*').flatMap((piece, index) =>
    piece
      .split(/(?<= )/)
      .filter((text) => text !== '')
      .map((text) => ({ text, bold: index % 2 === 1 })),
  );
}

/**
 * A sentence in lines that are no wider than there is room.
 *
 * @param width of the lines, in the units of `measure`
 * @param measure how wide a word is; the space after it is part of it
 */
export function wrap(
  words: readonly Word[],
  width: number,
  measure: (word: Word) => number,
): Word[][] {
  const lines: Word[][] = [[]];
  let used = 0;
  for (const piece of pieces(words)) {
    const whole = piece.reduce((sum, word) => sum + measure(word), 0);
    const last = piece.at(-1);
    const space = last ? measure(last) - measure({ ...last, text: last.text.trimEnd() }) : 0;
    if (used > 0 && used + whole - space > width) {
      lines.push([]);
      used = 0;
    }
    lines.at(-1)?.push(...piece);
    used += whole;
  }
  return lines;
}

/** Words that no space parts are one piece: a full stop stays with the bold word before it. */
function pieces(words: readonly Word[]): Word[][] {
  const found: Word[][] = [];
  let open = false;
  for (const word of words) {
    if (open) found.at(-1)?.push(word);
    else found.push([word]);
    open = !word.text.endsWith(' ');
  }
  return found;
}

const FAMILY = '"Atkinson Hyperlegible Next Variable", system-ui, sans-serif';
/** Of a character whose width nobody can measure, as a share of its size. */
const ROUGHLY = 0.55;

/** How wide words are at a size [px]; about, where there is no canvas to ask. */
export function measurer(size: number): (word: Word) => number {
  const pen = document.createElement('canvas').getContext('2d');
  return ({ text, bold }) => {
    if (pen === null) return text.length * size * ROUGHLY;
    pen.font = `${bold ? 680 : 420} ${size}px ${FAMILY}`;
    return pen.measureText(text).width;
  };
}
