"""Text that a spreadsheet would run, made harmless on the way out and itself again on the way in."""

from __future__ import annotations

import re
from typing import TYPE_CHECKING, Final

if TYPE_CHECKING:
    import polars as pl

#: What a spreadsheet takes for a formula begins so (OWASP, "CSV injection"; from memory); quotes before it
#: are of text that was shielded before.
RISKY: Final = r"^'*[=+\-@\t\r]"
#: A number with its sign runs nothing.
NUMBER: Final = r"^[+\-]?[0-9]+([.,][0-9]+)*([eE][+\-]?[0-9]+)?$"
_RISKY, _NUMBER = re.compile(RISKY), re.compile(NUMBER)


def shielded(text: str) -> str:
    """A text as it may stand in a table: with a quote before what would be run."""
    return f"'{text}" if _would_run(text) else text


def unshielded(text: str) -> str:
    """The text that was shielded; any other stays as it is."""
    return text[1:] if text.startswith("'") and _would_run(text[1:]) else text


def _would_run(text: str) -> bool:
    return bool(_RISKY.match(text)) and not _NUMBER.match(text)


def shielded_frame(frame: pl.DataFrame) -> pl.DataFrame:
    """A table of samples with its texts and its columns' names shielded."""
    import polars as pl

    texts = []
    for name in _texts_of(frame):
        column = pl.col(name)
        risky = column.str.contains(RISKY) & ~column.str.contains(NUMBER)
        with_quote = pl.concat_str(pl.lit("'"), column)
        texts.append(pl.when(risky).then(with_quote).otherwise(column).alias(name))
    return frame.with_columns(texts).rename({name: shielded(name) for name in frame.columns})


def unshielded_frame(frame: pl.DataFrame) -> pl.DataFrame:
    """The same as it was before."""
    import polars as pl

    texts = []
    for name in _texts_of(frame):
        column = pl.col(name)
        rest = column.str.strip_prefix("'")
        risky = column.str.starts_with("'") & rest.str.contains(RISKY) & ~rest.str.contains(NUMBER)
        texts.append(pl.when(risky).then(rest).otherwise(column).alias(name))
    return frame.with_columns(texts).rename({name: unshielded(name) for name in frame.columns})


def _texts_of(frame: pl.DataFrame) -> list[str]:
    import polars as pl

    return [name for name, kind in frame.schema.items() if kind == pl.String]
