"""JSON that is kept: `{schema, core, value}`, read by whatever version comes after.

What an older version stored bare is schema 0. A value that cannot be read any more is told as such,
never an error: one odd row must not take a list down.
"""

from __future__ import annotations

import logging
from collections.abc import Callable, Mapping
from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError

from limpet.version import core_digest

logger = logging.getLogger(__name__)

T = TypeVar("T", bound=BaseModel)
#: From the schema of that number to the next one.
Upgrades = Mapping[int, Callable[[Any], Any]]

_PARTS = {"schema", "core", "value"}


def wrapped(value: Any, schema: int = 1) -> dict[str, Any]:
    """A value as it is kept."""
    return {"schema": schema, "core": core_digest(), "value": value}


def unwrapped(kept: Any, upgrades: Upgrades | None = None) -> Any:
    """The value of what was kept, brought to today's shape as far as the upgrades know how."""
    number, value = 0, kept
    if isinstance(kept, dict) and set(kept) == _PARTS:
        number, value = kept["schema"], kept["value"]
    for at, upgrade in sorted((upgrades or {}).items()):
        if isinstance(number, int) and at >= number:
            try:
                value = upgrade(value)
            except (KeyError, TypeError, ValueError, AttributeError):
                return value
    return value


def readable(kept: Any, kind: type[T], upgrades: Upgrades | None = None) -> T | None:
    """What was kept as a schema of today; None when it cannot be read."""
    if kept is None:
        return None
    try:
        return kind.model_validate(unwrapped(kept, upgrades))
    except ValidationError as error:
        logger.warning("a stored %s cannot be read: %s", kind.__name__, error.errors()[0]["loc"])
        return None
