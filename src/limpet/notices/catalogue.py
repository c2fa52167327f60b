"""Sentences as Fluent holds them: a file a room, a message a code, in a form that a translator can take.

A message is parsed when it is first said, and the library is read when anything is: both take longer than many a
command, and whoever only computes says nothing.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Mapping
from functools import lru_cache
from pathlib import Path
from typing import Any, Final, cast

#: The language that the sentences are in.
LANGUAGE: Final = "en"
_HERE: Final = Path(__file__).parent / LANGUAGE
_MESSAGE: Final = re.compile(r"^([a-z]\w*) =(.*\n(?:(?:[ \t].*)?\n)*)", re.M)
_VARIABLE: Final = re.compile(r"\$(\w+)")
#: Bundles that are kept: one for every choice of units that somebody reads in.
_MOST_BUNDLES: Final = 64

#: What a function of a message is given, and makes of it.
Function = Callable[..., str]


def texts_of(room: str) -> dict[str, str]:
    """The messages of a file as they are written, by code.

    Parameters
    ----------
    room : the file's name without its ending

    Raises
    ------
    ValueError
        When a line belongs to no message.
    """
    written = (_HERE / f"{room}.ftl").read_text(encoding="utf-8")
    found = {match[1]: match[2] for match in _MESSAGE.finditer(written)}
    rest = _MESSAGE.sub("", written)
    strange = [line for line in rest.splitlines() if line.strip() and not line.startswith("#")]
    if strange:
        raise ValueError(f"{room}.ftl: no message holds {strange[0]!r}")
    return found


def variables_of(text: str) -> frozenset[str]:
    """The names of the values that a message holds."""
    return frozenset(_VARIABLE.findall(text))


class Catalogue:
    """Messages, and the functions that write their values.

    Parameters
    ----------
    texts : as they are written, by code
    functions : what writes values for a reader, by the reader's units
    """

    def __init__(
        self, texts: Mapping[str, str], functions: Callable[[Any], Mapping[str, Function]]
    ) -> None:
        self.texts = texts
        self.variables = {code: variables_of(text) for code, text in texts.items()}
        self._bundle = lru_cache(_MOST_BUNDLES)(lambda units: _Said(functions(units)))

    def plain(self, code: str) -> str:
        """A message that holds no values, as it is written."""
        return " ".join(self.texts[code].split())

    def say(self, code: str, values: Mapping[str, Any], units: Any) -> str:
        """A message with its values.

        Parameters
        ----------
        code : of the message
        values : by name, those that the message holds
        units : the reader's

        Raises
        ------
        KeyError
            For an unknown code or a missing value.
        """
        missing = self.variables[code] - values.keys()
        if missing:
            raise KeyError(f"{code} lacks {sorted(missing)}")
        said: _Said = self._bundle(units)
        return said.of(code, self.texts[code], values)


class _Said:
    """The messages that have been said in somebody's units."""

    def __init__(self, functions: Mapping[str, Function]) -> None:
        from fluent.runtime import FluentBundle, FluentResource

        self._resource = FluentResource
        self._bundle = FluentBundle(
            [LANGUAGE], functions=cast(Any, dict(functions)), use_isolating=False
        )

    def of(self, code: str, text: str, values: Mapping[str, Any]) -> str:
        if not self._bundle.has_message(code):
            self._bundle.add_resource(self._resource(f"{code} ={text}"))
        pattern = self._bundle.get_message(code).value
        if pattern is None:
            raise ValueError(f"{code} is no message")
        found, errors = self._bundle.format_pattern(pattern, dict(values))
        for error in errors:
            raise error
        # Where a file breaks a line is of no meaning.
        return " ".join(_lines(str(found)))


def _lines(text: str) -> Iterator[str]:
    return (line.strip() for line in text.split("\n"))
