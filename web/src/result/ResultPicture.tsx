import type { Ref } from 'react';
import type { Strip, Units } from '../api/queries';
import { measurer, type Word, wordsOf, wrap } from '../chart/wrap';
import { LABEL_PX } from '../device/textScale';
import { Drawing, tideFrame } from '../tideline/Drawing';
import { onTides, reachOf } from '../tideline/geometry';
import { say } from '../words/en/result.ftl';
import classes from './Result.module.css';
import type { Headline } from './threeFigures';

export type Shape = 'wide' | 'square';

/** Of the picture [px]: what pages that show a link take, and what a square place takes. */
export const SIZES: Record<Shape, { width: number; height: number }> = {
  wide: { width: 1200, height: 630 },
  square: { width: 1080, height: 1080 },
};

interface ResultPictureProps {
  shape: Shape;
  /** Above the sentence: what was ridden, and in what. */
  head: readonly string[];
  /** The sentence; what stands between asterisks is the heart of it. */
  said: string;
  headlines: Headline[];
  strip: Strip;
  units: Units;
  svg: Ref<SVGSVGElement>;
}

const EDGE = 56;
/** Sizes of the sentence, the largest that has room is taken [px], and its lines at the most. */
const SENTENCE: Record<Shape, { sizes: readonly number[]; lines: number }> = {
  wide: { sizes: [38, 34, 30, 26], lines: 3 },
  square: { sizes: [46, 42, 38, 34, 30], lines: 6 },
};
const LINE = 1.25;
const HEAD_LINE = 28;
const UNDER = 19;
/** A square's tideline is no deeper than this: a steep one reads worse, not better [px]. */
const DEEPEST = 540;
/** The tideline is drawn as on the page and then enlarged [-]. */
const ENLARGED = 1.5;
const CHAR = 6.4;

/** A result on one picture: the sentence, the figures with their ±, the tideline, the conditions. */
export function ResultPicture(props: ResultPictureProps) {
  const { shape, head, said, headlines, strip: whole, units, svg } = props;
  const { width, height } = SIZES[shape];
  const inner = width - 2 * EDGE;
  // What a gauge showed is of the rider's own display: it says nothing to those who have another.
  const marks = whole.marks.map((mark) => ({ ...mark, gauge: null }));
  const strip = onTides({ ...whole, marks });
  const top = Math.max(52 + head.length * HEAD_LINE, 88);
  const { size, lines } = sentenceOf(said, shape, inner);
  const figuresAt = top + lines.length * size * LINE + 32;
  // What does not fit one line is parted where its parts meet.
  const fits = (text: string) => measurer(UNDER)({ text, bold: false }) < inner / 3 - 28;
  const unders = headlines.map(({ under }) => (fits(under) ? [under] : under.split(' · ')));
  const tallest = Math.max(...unders.map((under) => under.length));
  const tideAt = figuresAt + 62 + tallest * UNDER * LINE;
  const frame = tideFrame({
    strip,
    band: null,
    bare: false,
    lengthM: reachOf(strip) * 1.04,
    scale: 1,
    width: inner / ENLARGED,
    height: Math.min(height - tideAt - 24, DEEPEST) / ENLARGED,
  });
  return (
    <svg
      ref={svg}
      className={classes.picture}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={say('picture-of-the-result', {
        flat: lines
          .flat()
          .map(({ text }) => text)
          .join(''),
      })}
    >
      <rect width={width} height={height} className={classes.paper} />
      <path
        d={`M${EDGE} 58 q20 -36 40 0 Z`}
        fill="none"
        className={classes.markLine}
        strokeWidth={2.5}
      />
      <text x={EDGE + 52} y={58} className={classes.pictureMark}>
        limpet
      </text>
      {head.map((text, line) => (
        <text
          key={text}
          x={width - EDGE}
          y={44 + line * HEAD_LINE}
          textAnchor="end"
          className={classes.pictureNote}
        >
          {text}
        </text>
      ))}
      {lines.map((line, at) => (
        <text
          // biome-ignore lint/suspicious/noArrayIndexKey: a line is its place
          key={at}
          x={EDGE}
          y={top + (at + 0.8) * size * LINE}
          className={classes.pictureSentence}
          style={{ fontSize: size }}
        >
          {line.map(({ text, bold }, word) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: the words of a line do not move
            <tspan key={word} style={{ fontWeight: bold ? 680 : 420 }}>
              {text}
            </tspan>
          ))}
        </text>
      ))}
      {headlines.map(({ name, label, value, unit, span }, column) => {
        const x = EDGE + (column * inner) / 3;
        return (
          <g key={name} className={name === 'plan_on' ? classes.planned : undefined}>
            <text x={x} y={figuresAt} className={classes.pictureNote}>
              {label}
            </text>
            <text x={x} y={figuresAt + 56} className={classes.pictureValue}>
              <tspan style={{ fontSize: span ? 34 : 56 }}>{value}</tspan>
              <tspan dx={10} className={classes.pictureNote}>
                {unit}
              </tspan>
            </text>
            {(unders[column] ?? []).map((text, line) => (
              <text
                key={text}
                x={x}
                y={figuresAt + 84 + line * UNDER * LINE}
                className={classes.pictureUnder}
              >
                {text}
              </text>
            ))}
          </g>
        );
      })}
      {/* biome-ignore lint/a11y/noSvgWithoutTitle: the picture's own words tell it */}
      <svg
        x={EDGE}
        y={tideAt}
        width={inner}
        height={frame.height * ENLARGED}
        fontSize={LABEL_PX}
        viewBox={`0 0 ${frame.width} ${frame.height}`}
      >
        <Drawing
          frame={frame}
          strip={strip}
          units={units}
          bare={false}
          charPx={CHAR}
          cursorM={null}
          band={null}
          flags={[]}
        />
      </svg>
    </svg>
  );
}

/** The sentence in as many lines as there may be, as large as it goes. */
function sentenceOf(said: string, shape: Shape, width: number) {
  const words = wordsOf(said);
  const tried = (size: number): { size: number; lines: Word[][] } => ({
    size,
    lines: wrap(words, width, measurer(size)),
  });
  const { sizes, lines } = SENTENCE[shape];
  const fits = sizes.find((size) => tried(size).lines.length <= lines);
  return tried(fits ?? sizes.at(-1) ?? 26);
}
