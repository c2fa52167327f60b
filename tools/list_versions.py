"""Known faults of the pinned packages where the registries tell them, and what is older than the newest.

A registry may be a mirror that answers no questions about faults: that is said, and then the list of what is
behind is what there is to look through. Nothing here fails a run: a new release is no fault of a change.
"""

from __future__ import annotations

import json
import subprocess
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from launch.environment import node_environment
from launch.paths import PYTHON, ROOT, WEB

#: How long one question may take [s].
PATIENCE_S = 120


def _asked(command: Sequence[str | Path], folder: Path = ROOT) -> Any:
    """What a command answers as JSON; None where it does not."""
    try:
        done = subprocess.run(
            [str(part) for part in command],
            cwd=folder, env=node_environment(), stdin=subprocess.DEVNULL, capture_output=True, text=True,
            timeout=PATIENCE_S, check=False,
        )  # fmt: skip
        return json.loads(done.stdout)
    except (OSError, subprocess.TimeoutExpired, ValueError):
        return None


def main() -> None:
    """Print it."""
    faults = _asked(["npm", "audit", "--json"], WEB)
    if isinstance(faults, dict) and "vulnerabilities" in faults:
        found = faults["vulnerabilities"]
        print(f"npm audit: {len(found)} packages with known faults")
        for name, fault in sorted(found.items()):
            print(f"  {name}: {fault.get('severity', 'unknown')}, {fault.get('range', '')}")
    else:
        print("npm audit: the registry tells of no faults (it answers no such question).")
    print(
        "pip: there is no audit without a service on the internet; what is behind is listed instead."
    )
    behind = _asked([PYTHON, "-m", "pip", "list", "--outdated", "--format=json"])
    if behind is None:
        print("pip: the index does not answer.")
    for row in behind or []:
        print(f"  {row['name']} {row['version']}, newest {row['latest_version']}")
    pages = _asked(["npm", "outdated", "--json"], WEB)
    if pages is None:
        print("npm: the registry does not answer.")
    for name, row in sorted((pages or {}).items()):
        print(f"  {name} {row.get('current')}, newest {row.get('latest')}")


if __name__ == "__main__":
    main()
