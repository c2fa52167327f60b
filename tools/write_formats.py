"""Write the formats' schemas and the tables of their pages; `--check` says whether they are new."""

from __future__ import annotations

import json
import sys
from pathlib import Path

from limpet.evidence.columns import ENTRY_COLUMNS, SAMPLE_COLUMNS, Column
from limpet.formats import NAMES, schema_of

FOLDER = Path(__file__).resolve().parents[1] / "docs/formats"
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
    return found


def main() -> int:
    stale = {path: text for path, text in contents().items() if not _is(path, text)}
    if "--check" in sys.argv[1:]:
        for path in stale:
            print(f"docs/formats/{path.name} is not what the core says; run ./limpet types")
        return 1 if stale else 0
    for path, text in stale.items():
        path.write_text(text)
    return 0


def _is(path: Path, text: str) -> bool:
    return path.is_file() and path.read_text() == text


if __name__ == "__main__":
    sys.exit(main())
