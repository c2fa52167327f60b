"""Make the page's two fonts smaller: the weights that it uses, and of the figures' font the letters of figures.

The whole files take 52 KB, which is a sixth of the first load; these take 30. What they lack comes from the whole
files, which the browser fetches only where a text has such a letter (web/src/theme/fonts.css).

Run after a font changed, where brotli is beside fonttools:  python -m tools.make_fonts
"""

from __future__ import annotations

from io import BytesIO
from pathlib import Path
from typing import Final

from fontTools.subset import Options, Subsetter
from fontTools.ttLib import TTFont
from fontTools.varLib.instancer import instantiateVariableFont

_WEB: Final = Path(__file__).resolve().parent.parent / "web"
_FROM: Final = _WEB / "node_modules" / "@fontsource-variable"
_TO: Final = _WEB / "src" / "theme" / "fonts"
#: The lightest and the heaviest that a style asks for.
_WEIGHTS: Final = (400, 750)
#: Letters, figures and the signs of measurement: what a table of figures, a key or a code has.
FIGURES: Final = [*range(0x20, 0x7F), *map(ord, "\u00a0°±·×÷–‘’…−")]


def smaller(name: str, letters: list[int] | None) -> Path:
    """Writes a font anew.

    Parameters
    ----------
    name : of the package's file, without what stands for its script and weight
    letters : code points that are kept; None for all of them

    Returns
    -------
    The file that was written.
    """
    package = f"atkinson-hyperlegible-{name}"
    whole = TTFont(_FROM / package / "files" / f"{package}-latin-wght-normal.woff2")
    # Written and read once between the two steps: the second finds glyphs by the names that the first left.
    limited = BytesIO()
    instantiateVariableFont(whole, {"wght": _WEIGHTS}).save(limited)
    font = TTFont(BytesIO(limited.getvalue()))
    options = Options(flavor="woff2", layout_features=["*"] if letters is None else [])
    subsetter = Subsetter(options)
    subsetter.populate(unicodes=letters if letters is not None else font.getBestCmap())
    subsetter.subset(font)
    font.flavor = "woff2"
    path = _TO / f"{name}-latin.woff2"
    font.save(path)
    return path


def main() -> None:
    for name, letters in (("next", None), ("mono", FIGURES)):
        path = smaller(name, letters)
        print(path, path.stat().st_size)


if __name__ == "__main__":
    main()
