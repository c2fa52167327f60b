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
)


def main(arguments: list[str] | None = None) -> int:
    """Run the command that the first argument names; returns its exit code."""
    given = sys.argv[1:] if arguments is None else arguments
    name = given[0] if given else ""
    if name not in COMMANDS:
        print(f"limpet: the commands are {', '.join(COMMANDS)}", file=sys.stderr)
        return 2
    command = import_module(f"limpet.cli.{name}")
    return int(command.run(given[1:]))
