"""Where things are in a checkout."""

from __future__ import annotations

from collections.abc import Iterable
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
#: Everything a run leaves behind; ignored by git.
RUN = ROOT / ".run"
VENV = ROOT / ".venv"
PYTHON = VENV / "bin" / "python"
WEB = ROOT / "web"
DIST = WEB / "dist"


def digest(paths: Iterable[Path]) -> str:
    """One hash over the names and contents of files."""
    import hashlib  # ten milliseconds that the core's commands do without

    total = hashlib.sha256()
    for path in sorted(paths):
        total.update(str(path.relative_to(ROOT)).encode())
        total.update(path.read_bytes())
    return total.hexdigest()


def is_current(stamp: Path, wanted: str) -> bool:
    """Whether a step was last done for exactly these inputs."""
    return stamp.is_file() and stamp.read_text() == wanted
