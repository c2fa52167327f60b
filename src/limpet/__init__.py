"""Limpet's core: the rules and the arithmetic of range tests of light electric vehicles.

Nothing here knows of Django, HTTP or a screen. The page, the API and the command line call the
same functions, so that they print the same numbers. What others may count on stands in `__all__`
(docs/library.md); it is loaded when it is first asked for.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from limpet.library import (
        analyse,
        compare,
        follow,
        forecast,
        legs_table,
        read_bundle,
        traces_table,
    )
    from limpet.quantity import Quantity

__version__ = "0.4.0"

__all__ = [
    "Quantity",
    "__version__",
    "analyse",
    "compare",
    "follow",
    "forecast",
    "legs_table",
    "read_bundle",
    "traces_table",
]


def __getattr__(name: str) -> Any:
    if name not in __all__:
        raise AttributeError(f"limpet has no {name!r}; it has {', '.join(__all__)}")
    from importlib import import_module

    home = "limpet.quantity" if name == "Quantity" else "limpet.library"
    return getattr(import_module(home), name)


def __dir__() -> list[str]:
    return sorted(__all__)
