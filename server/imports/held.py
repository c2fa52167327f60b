"""Files that somebody dropped, held on this machine while they are looked at. Nothing of them is stored yet."""

from __future__ import annotations

import json
import os
import shutil
import time
from collections.abc import Iterator, Sequence
from contextlib import contextmanager, suppress
from dataclasses import asdict, dataclass
from mmap import ACCESS_READ, mmap
from pathlib import Path
from typing import Any, Final
from uuid import UUID

from django.conf import settings
from django.contrib.auth.models import User
from django.core.files.uploadedfile import UploadedFile

from server.imports.opening import Part, open_into
from server.wire.apart import apart
from server.wire.problems import ConflictError, GoneError
from server.wire.room import check_disk
from server.wire.turns import by_turns

#: How long files are held [s], how many drops of one account at once, and their bytes together.
HELD_S: Final = 24 * 3600
MOST_DROPS, MOST_HELD_BYTES = 20, 2 * 2**30
#: Files up to this size together are opened where they came in; larger ones in a process of its own.
SMALL_BYTES: Final = 2 * 2**20


@dataclass(frozen=True, slots=True, kw_only=True)
class Drop:
    """What was dropped at once."""

    id: UUID
    owner: int
    parts: tuple[Part, ...]

    def part(self, key: int) -> Part:
        """A part by its place.

        Raises
        ------
        ConflictError
            When there is none.
        """
        for part in self.parts:
            if part.key == key:
                return part
        raise GoneError("That part isn’t in this import. Drop the file again.")

    def path(self, part: Part) -> Path:
        """Where its bytes lie."""
        return folder_of(self.id) / f"{part.key}.part"

    def data(self, part: Part) -> bytes:
        """Its bytes."""
        try:
            return self.path(part).read_bytes()
        except FileNotFoundError as cause:
            raise GONE from cause

    @contextmanager
    def mapped(self, part: Part) -> Iterator[bytes | mmap]:
        """Its bytes without reading them: a look at a large log picks what it needs."""
        try:
            with self.path(part).open("rb") as opened_file:
                if part.size == 0:
                    yield b""
                    return
                with mmap(opened_file.fileno(), 0, access=ACCESS_READ) as found:
                    yield found
        except FileNotFoundError as cause:
            raise GONE from cause


GONE: Final = GoneError("These files aren’t held any more. Drop them again.")


def _root() -> Path:
    return Path(settings.HELD_FOLDER)


def folder_of(drop_id: UUID) -> Path:
    """Where a drop lies."""
    return _root() / str(drop_id)


def hold(owner: User, drop_id: UUID, uploads: Sequence[UploadedFile]) -> Drop:
    """Take files in to be looked at. Sent again under its id, it gives what is held.

    Raises
    ------
    BundleError
        When an archive cannot be opened.
    ConflictError
        When the account holds as many as it may.
    """
    if folder_of(drop_id).exists():
        return held(owner, drop_id)
    check_disk()
    sweep()
    mine = [drop for drop in _all() if drop.owner == owner.pk]
    size = sum(part.size for drop in mine for part in drop.parts)
    coming = sum(upload.size or 0 for upload in uploads)
    if coming > MOST_HELD_BYTES:
        raise ConflictError("That is more than is looked at at once. Drop fewer files.")
    # What is looked at anew takes the place of what was left lying longest.
    mine.sort(key=lambda drop: folder_of(drop.id).stat().st_mtime)
    while mine and (len(mine) >= MOST_DROPS or size + coming > MOST_HELD_BYTES):
        oldest = mine.pop(0)
        size -= sum(part.size for part in oldest.parts)
        forget(owner, oldest.id)
    making = _root() / f"{drop_id}.making"
    shutil.rmtree(making, ignore_errors=True)
    _root().mkdir(mode=0o700, parents=True, exist_ok=True)
    making.mkdir(mode=0o700)
    try:
        names = []
        for number, upload in enumerate(uploads):
            names.append((upload.name or f"file-{number}").rsplit("/", 1)[-1][-120:])
            with (making / f"{number}.raw").open("wb") as out:
                for chunk in upload.chunks():
                    out.write(chunk)
        parts = _opened(making, names, coming)
        about = {"owner": owner.pk, "made": time.time(), "parts": [asdict(part) for part in parts]}
        (making / "about.json").write_text(json.dumps(about))
        try:
            os.rename(making, folder_of(drop_id))
        except OSError:
            # Somebody sent the same at once, and was first.
            shutil.rmtree(making, ignore_errors=True)
        return held(owner, drop_id)
    except BaseException:
        shutil.rmtree(making, ignore_errors=True)
        raise


@by_turns
def _opened(making: Path, names: list[str], size: int) -> list[Part]:
    if size <= SMALL_BYTES and not any(
        name.lower().endswith((".zip", ".gz", ".xlsx", ".ods")) for name in names
    ):
        return open_into(str(making), names)
    return apart(open_into, str(making), names)


def held(owner: User, drop_id: UUID) -> Drop:
    """A drop of an account.

    Raises
    ------
    GoneError
        When it is not held, or another's.
    """
    drop = _read(folder_of(drop_id))
    if drop is None or drop.owner != owner.pk:
        raise GONE
    return drop


def forget(owner: User, drop_id: UUID) -> None:
    """Let go of a drop; what is being read of it is stopped.

    Raises
    ------
    GoneError
        When it is not held, or another's.
    """
    held(owner, drop_id)
    with suppress(OSError):
        (folder_of(drop_id) / "cancelled").touch()
    shutil.rmtree(folder_of(drop_id), ignore_errors=True)


def _read(folder: Path) -> Drop | None:
    try:
        about: dict[str, Any] = json.loads((folder / "about.json").read_text())
        parts = tuple(Part(**part) for part in about["parts"])
        return Drop(id=UUID(folder.name), owner=int(about["owner"]), parts=parts)
    except (OSError, ValueError, KeyError, TypeError):
        return None


def _all() -> list[Drop]:
    if not _root().is_dir():
        return []
    found = [
        _read(folder) for folder in sorted(_root().iterdir()) if not folder.name.endswith(".making")
    ]
    return [drop for drop in found if drop is not None]


def sweep() -> int:
    """Let go of what was held too long, or was never finished; says how many."""
    gone = 0
    if not _root().is_dir():
        return 0
    for folder in _root().iterdir():
        with suppress(OSError):
            if time.time() - folder.stat().st_mtime > HELD_S:
                shutil.rmtree(folder, ignore_errors=True)
                gone += 1
    return gone


def told_stage(drop_id: UUID, stage: str) -> bool:
    """Note how far the storing of a drop is; False once it was cancelled."""
    folder = folder_of(drop_id)
    if not folder.exists() or (folder / "cancelled").exists():
        return False
    with suppress(OSError):
        (folder / "stage").write_text(stage)
    return True


def stage_of(owner: User, drop_id: UUID) -> str:
    """How far the storing of a drop is, "" before it began."""
    held(owner, drop_id)
    try:
        return (folder_of(drop_id) / "stage").read_text()[:40]
    except OSError:
        return ""
