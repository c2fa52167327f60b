"""Write the formats' schemas, the tables of their pages and of Method; `--check` says whether they are new."""

from __future__ import annotations

import json
import sys
from pathlib import Path

from limpet.assumptions import assumptions
from limpet.evidence.columns import ENTRY_COLUMNS, SAMPLE_COLUMNS, Column
from limpet.formats import NAMES, schema_of
from limpet.formulas import FORMULAS

DOCS = Path(__file__).resolve().parents[1] / "docs"
FOLDER = DOCS / "formats"
TABLES = {"samples.csv": SAMPLE_COLUMNS, "entries.csv": ENTRY_COLUMNS}


def row(column: Column) -> str:
    """A column's line of a table."""
    if column.name == "kind" or column.choices:
        span = "one of those"
    elif column.is_text:
        span = f"at most {column.longest:,} characters"
    else:
        span = f"{column.low:,.10g} to {column.high:,.10g}"
    return f"| `{column.name}` | {column.words} | {span} |"


def formulas() -> str:
    """The formulas as a list, group by group."""
    lines: list[str] = []
    group = ""
    for formula in FORMULAS.values():
        if formula.group != group:
            group = formula.group
            lines += ["", f"**{group}**", ""]
        lines.append(f"- {formula.title}: `{formula.typeset}` ({formula.source})")
    return "\n".join(lines[1:])


def assumed() -> str:
    """What is taken where nobody says, as a table."""
    rows = [
        f"| `{item.name}` | {item.default:g} ±{item.default_std:.3g} {'' if item.unit == '1' else item.unit} "
        f"| {item.matters} | {item.source} |"
        for item in assumptions()
    ]
    return "\n".join(
        ["| what | value ± u | where it matters | source |", "|---|---|---|---|", *rows]
    )


def between(text: str, name: str, inside: str) -> str:
    """A page with the part of a name replaced."""
    begin, end = f"<!-- {name} -->", f"<!-- end of {name} -->"
    head, found, rest = text.partition(begin)
    if not found:
        raise SystemExit(f"no {begin} in the page")
    return f"{head}{begin}\n{inside}\n{end}{rest.partition(end)[2]}"


def contents() -> dict[Path, str]:
    """Every file as it should be."""
    found = {
        FOLDER / f"{name}.schema.json": json.dumps(schema_of(name), indent=1) + "\n"
        for name in NAMES
    }
    page = FOLDER / "bundle.md"
    text = page.read_text()
    for name, columns in TABLES.items():
        begin, end = f"<!-- columns of {name} -->", f"<!-- end of {name} -->"
        head, _, rest = text.partition(begin)
        tail = rest.partition(end)[2]
        rows = "\n".join(row(column) for column in columns.values())
        text = f"{head}{begin}\n| column | what | from, to |\n|---|---|---|\n{rows}\n{end}{tail}"
    found[page] = text
    method = DOCS / "method.md"
    found[method] = between(
        between(method.read_text(), "formulas", formulas()), "assumptions", assumed()
    )
    return found


def main() -> int:
    stale = {path: text for path, text in contents().items() if not _is(path, text)}
    if "--check" in sys.argv[1:]:
        for path in stale:
            print(f"docs: {path.name} is not what the core says; run ./limpet types")
        return 1 if stale else 0
    for path, text in stale.items():
        path.write_text(text)
    return 0


def _is(path: Path, text: str) -> bool:
    return path.is_file() and path.read_text() == text


if __name__ == "__main__":
    sys.exit(main())
