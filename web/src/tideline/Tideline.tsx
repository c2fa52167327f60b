import { useElementSize } from '@mantine/hooks';
import type { Strip, Units } from '../api/queries';
import { LABEL_PX, textScale } from '../device/textScale';
import type { Band, Flag } from './band';
import { Drawing, tideFrame } from './Drawing';
import { onTides } from './geometry';
import { inWords, sentence } from './inWords';
import type { Photo } from './pieces';
import classes from './Tideline.module.css';

interface TidelineProps {
  strip: Strip;
  units: Units;
  /** The distance at the right edge [m]; by default as far as this strip reaches. */
  lengthM?: number;
  height?: number;
  /** A row of the logbook has no labels of its own: the page's scale serves it. */
  bare?: boolean;
  /** Where the cursor stands [m], shared with the traces. */
  cursorM?: number | null;
  /** Width of a character of the labels [px]. */
  charWidth?: number;
  /** What was forecast, under what was ridden. */
  band?: Band | null;
  /** Places to know of: turn, enough, the end, entries to make. */
  flags?: readonly Flag[];
  /** Pictures taken on the way. */
  photos?: readonly Photo[];
  /** What the drawing says in words, where it says more than the strip. */
  label?: string;
}

/** A bare strip is drawn as if so wide [px]. */
const BARE_PX = 500;

/** Energy left over distance: it ebbs from full on the left to cut-off on the right. */
export function Tideline({
  strip: whole,
  units,
  lengthM,
  height = 176,
  bare = false,
  cursorM = null,
  charWidth = 6.2,
  band = null,
  flags = [],
  photos = [],
  label,
}: TidelineProps) {
  const strip = onTides(whole);
  const { ref, width } = useElementSize<HTMLDivElement>();
  const scale = bare ? 1 : textScale();
  const frame = tideFrame({
    strip,
    band,
    bare,
    // A row's strip is stretched to its place and never measured: there are many of them.
    width: bare ? BARE_PX : Math.max(width, 120),
    height,
    lengthM,
    scale,
    photos,
  });
  return (
    <div ref={bare ? undefined : ref} className={classes.wrap}>
      <svg
        className={bare ? `${classes.svg} ${classes.bare}` : classes.svg}
        height={frame.height}
        fontSize={LABEL_PX * scale}
        viewBox={`0 0 ${frame.width} ${frame.height}`}
        preserveAspectRatio={bare ? 'none' : undefined}
        role="img"
        aria-label={label ?? (bare ? sentence(strip, units) : inWords(strip, units))}
      >
        <Drawing
          frame={frame}
          strip={strip}
          units={units}
          bare={bare}
          charPx={charWidth * scale}
          cursorM={cursorM}
          band={band}
          flags={flags}
          photos={photos}
        />
      </svg>
    </div>
  );
}
