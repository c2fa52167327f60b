"""The core's commands: each a module of its own, loaded when it is asked for."""

from __future__ import annotations

import sys
from importlib import import_module

COMMANDS = (
    "analyse",
    "compare",
    "follow",
    "forecast",
    "claim",
    "size",
    "tidetable",
    "ageing",
    "seasons",
    "import",
    "export",
)
#: Commands whose module is called otherwise: a keyword of the language is no name of one.
_ELSEWHERE = {"import": ("bring", "run_import"), "export": ("bring", "run_export")}


def main(arguments: list[str] | None = None) -> int:
    """Run the command that the first argument names; returns its exit code."""
    given = sys.argv[1:] if arguments is None else arguments
    name = given[0] if given else ""
    if name not in COMMANDS:
        print(f"limpet: the commands are {', '.join(COMMANDS)}", file=sys.stderr)
        return 2
    module, function = _ELSEWHERE.get(name, (name, "run"))
    return int(getattr(import_module(f"limpet.cli.{module}"), function)(given[1:]))
