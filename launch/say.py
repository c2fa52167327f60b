"""Progress on the terminal, one line a step."""

from __future__ import annotations

import subprocess
import sys
import time
from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from pathlib import Path


class Trouble(Exception):
    """Something the user has to know, in a sentence that says what to do."""


def say(text: str) -> None:
    """A line on the terminal, at once."""
    print(text, flush=True)


@contextmanager
def step(what: str) -> Iterator[None]:
    """Announce a long step and say how long it took; two may be under way beside each other."""
    begun = time.monotonic()
    say(f"· {what} …")
    yield
    say(f"✓ {what}: done in {time.monotonic() - begun:.0f} s")


def run(
    command: Sequence[str | Path],
    *,
    why: str,
    cwd: Path | None = None,
    env: Mapping[str, str] | None = None,
) -> None:
    """Run a command quietly; on failure show the end of what it said and stop."""
    done = subprocess.run(
        [str(part) for part in command],
        cwd=cwd,
        env=env,
        stdin=subprocess.DEVNULL,
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        text=True,
        errors="replace",
        check=False,
    )
    if done.returncode != 0:
        sys.stderr.write("\n".join(done.stdout.splitlines()[-40:]) + "\n")
        shown = " ".join(str(part) for part in command[:4])
        raise Trouble(
            f"{why} failed ({shown} … ended with {done.returncode}); its last lines are above"
        )
