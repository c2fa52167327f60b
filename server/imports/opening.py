"""Raw files opened into their parts, on the disk. Knows no database, so that a process apart can do it."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass
from pathlib import Path

from limpet.errors import BundleError, Fault
from limpet.foreign.dropped import Dropped, opened
from limpet.foreign.kinds import Told


@dataclass(frozen=True, slots=True, kw_only=True)
class Part:
    """One thing that was dropped: its place in the drop, what it is, the bytes of it, why it is refused."""

    key: int
    name: str
    what: str
    form: str
    size: int
    sha256: str
    fault: str = ""


def open_into(folder: str, names: list[str]) -> list[Part]:
    """Open raw files and lay their parts beside them."""
    making = Path(folder)
    found: list[Part] = []
    for number, name in enumerate(names):
        raw = making / f"{number}.raw"
        data = raw.read_bytes()
        try:
            dropped = opened({name: data})
        except BundleError as error:
            dropped = [
                Dropped(
                    name=name,
                    told=Told(what="unknown", form="damaged"),
                    data=b"",
                    fault=error.faults[0],
                )
            ]
        raw.unlink()
        for item in dropped:
            key = len(found)
            (making / f"{key}.part").write_bytes(item.data)
            found.append(
                Part(
                    key=key,
                    name=item.name,
                    what=item.told.what,
                    form=item.told.form,
                    size=len(item.data),
                    sha256=hashlib.sha256(item.data or data).hexdigest(),
                    fault=item.fault.message if item.fault is not None else "",
                )
            )
    if not found:
        raise BundleError([Fault("files", 0, 0, "hold nothing; drop a log, a track or a bundle")])
    return found
