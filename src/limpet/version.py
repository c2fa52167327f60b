"""What the core is, by its own sources: a result computed by other sources is computed anew."""

from __future__ import annotations

from functools import cache
from hashlib import sha256
from pathlib import Path


@cache
def core_digest() -> str:
    """A digest of every source and data file of the core, 32 hexadecimal digits.

    Notes
    -----
    No number that somebody must remember to raise: any change of a formula, a constant or a curve
    changes it. A comment does too, which costs a computation and nothing else.
    """
    home = Path(__file__).parent
    files = sorted(path for path in home.rglob("*") if path.suffix in (".py", ".csv"))
    total = sha256()
    for path in files:
        total.update(str(path.relative_to(home)).encode())
        total.update(path.read_bytes())
    return total.hexdigest()[:32]
