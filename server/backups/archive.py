"""The file of a backup: a tar of what is in it, the dump and the installation's own files; sealed where there is a key.

The seal is the open age format, by the package pyrage: any program that knows it opens the file with the same key.
"""

from __future__ import annotations

import hashlib
import io
import json
import os
import tarfile
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any, Final, Literal

import pyrage
from pydantic import BaseModel, Field, ValidationError
from pyrage import x25519

from server.backups.problems import BackupError

VERSION: Final = 1
ABOUT, DUMP, FILES = "about.json", "database.sql.gz", "files/"
#: Endings of a backup's file, plain and sealed.
PLAIN, SEALED = ".limpet-backup", ".limpet-backup.age"
#: What belongs to an installation beside its database, under its folder: the key of its sessions, its certificates.
KEPT_FILES: Final = ("secret-key", "lan")
#: Of those, how many and how large at most; of the description.
MOST_FILES, MOST_FILE_BYTES, MOST_ABOUT_BYTES = 100, 1 << 20, 4 << 20
_PIECE: Final = 1 << 20


Key = x25519.Identity


@dataclass(frozen=True, slots=True)
class Opened:
    """A backup that was opened: what it says of itself and of its tables (rows, checksum), its dump, and the
    installation's files by their path."""

    about: Mapping[str, Any]
    tables: Mapping[str, tuple[int, int]]
    dump: Path
    files: Mapping[str, bytes]


def new_key(file: Path) -> None:
    """Make a key and put it into a file that is not there yet.

    Raises
    ------
    BackupError
        When it is there: a key that was overwritten opens nothing any more.
    """
    identity = x25519.Identity.generate()
    try:
        handle = os.open(file, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
    except FileExistsError as cause:
        raise BackupError(f"{file} is there already; choose another name") from cause
    except OSError as cause:
        raise BackupError(f"{file} cannot be written: {cause.strerror}") from cause
    with os.fdopen(handle, "w") as out:
        out.write(f"# opens backups of Limpet; public: {identity.to_public()}\n{identity}\n")


def read_key(file: Path) -> x25519.Identity:
    """The key of a file.

    Raises
    ------
    BackupError
        When it cannot be read, or holds none.
    """
    try:
        text = file.read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as cause:
        raise BackupError(f"the key {file} cannot be read; give the file that holds it") from cause
    lines = [line.strip() for line in text.splitlines()[:50]]
    for line in lines:
        if line.startswith("AGE-SECRET-KEY-"):
            try:
                return x25519.Identity.from_str(line)
            except pyrage.IdentityError as cause:
                raise BackupError(f"the key in {file} is damaged; give the right file") from cause
    raise BackupError(f"{file} holds no key; make one with: ./limpet backup --new-key FILE")


def own_files(run: Path) -> dict[str, bytes]:
    """The installation's own files, by their path under its folder."""
    found: dict[str, bytes] = {}
    for name in KEPT_FILES:
        place = run / name
        every = sorted(place.rglob("*")) if place.is_dir() else [place]
        for path in every:
            if path.is_file() and path.stat().st_size <= MOST_FILE_BYTES:
                found[str(path.relative_to(run))] = path.read_bytes()
    if len(found) > MOST_FILES:
        raise BackupError(
            f"{run} holds over {MOST_FILES} files of its own; that is no folder of Limpet’s"
        )
    return found


def write(
    to: Path,
    about: Mapping[str, Any],
    dump: Path,
    files: Mapping[str, bytes],
    key: x25519.Identity | None,
) -> None:
    """Write a backup, whole or not at all; a sealed one is opened again with the same key before it counts.

    Raises
    ------
    BackupError
        When it cannot be written, or does not open again.
    """
    part = to.with_name(to.name + ".part")
    try:
        with TemporaryDirectory(prefix="limpet-", dir=to.parent) as here:
            plain = Path(here) / "plain"
            with tarfile.open(plain, "w") as archive:
                _add(archive, ABOUT, json.dumps(about, indent=2).encode())
                archive.add(dump, DUMP)
                for name, data in files.items():
                    _add(archive, FILES + name, data)
            if key is None:
                os.replace(plain, part)
            else:
                pyrage.encrypt_file(str(plain), str(part), [key.to_public()])
                again = Path(here) / "again"
                _unseal(part, again, key)
                if digest_of(again) != digest_of(plain):
                    raise BackupError(
                        "the sealed backup does not open to what was sealed; try again"
                    )
        # It holds what riders keep for themselves, and the key of their sessions.
        part.chmod(0o600)
        with part.open("rb") as written:
            os.fsync(written.fileno())
        os.replace(part, to)
    except OSError as cause:
        raise BackupError(f"{to} cannot be written: {cause.strerror or cause}") from cause
    finally:
        part.unlink(missing_ok=True)


@contextmanager
def opened(file: Path, key: x25519.Identity | None) -> Iterator[Opened]:
    """Open a backup; what it holds is checked for its form, and lies in a folder that goes with the block.

    Raises
    ------
    BackupError
        When the file is none, is damaged, or another key opens it.
    """
    if not file.is_file():
        raise BackupError(f"{file} is not there; give a backup’s file")
    with TemporaryDirectory(prefix="limpet-") as here:
        plain = file
        if file.name.endswith(SEALED):
            if key is None:
                raise BackupError(f"{file.name} is sealed; give its key with --key FILE")
            plain = Path(here) / "plain"
            _unseal(file, plain, key)
        yield _read(plain, Path(here) / DUMP, file.name)


def _read(plain: Path, dump: Path, called: str) -> Opened:
    damaged = f"{called} is damaged, or no backup of Limpet’s; take another one"
    about: Any = None
    files: dict[str, bytes] = {}
    try:
        with tarfile.open(plain, "r:") as archive:
            for member in archive:
                inside = archive.extractfile(member) if member.isfile() else None
                if inside is None:
                    raise BackupError(damaged)
                if member.name == ABOUT and member.size <= MOST_ABOUT_BYTES:
                    about = json.loads(inside.read())
                elif member.name == DUMP:
                    with dump.open("wb") as out:
                        while piece := inside.read(_PIECE):
                            out.write(piece)
                elif _is_own(member) and len(files) < MOST_FILES:
                    files[member.name.removeprefix(FILES)] = inside.read()
                else:
                    raise BackupError(damaged)
    except (tarfile.TarError, OSError, ValueError) as cause:
        raise BackupError(damaged) from cause
    try:
        said = _About.model_validate(about)
    except ValidationError as cause:
        raise BackupError(damaged) from cause
    if not dump.is_file():
        raise BackupError(damaged)
    if digest_of(dump) != said.dump_sha256:
        raise BackupError(damaged)
    return Opened(about, said.tables, dump, files)


class _About(BaseModel):
    """What a backup says of itself, as far as it is needed."""

    limpet_backup: Literal[1]
    limpet: str = Field(max_length=40)
    made_at: str = Field(max_length=40)
    dump_sha256: str
    migrations: list[tuple[str, str]]
    tables: dict[str, tuple[int, int]]


def _is_own(member: tarfile.TarInfo) -> bool:
    """Whether a member is a file that an installation has beside its database, and nothing else."""
    path = Path(member.name.removeprefix(FILES))
    return (
        member.name.startswith(FILES)
        and member.size <= MOST_FILE_BYTES
        and ".." not in path.parts
        and not path.is_absolute()
        and path.parts[:1] in [(name,) for name in KEPT_FILES]
    )


def _unseal(file: Path, to: Path, key: x25519.Identity) -> None:
    try:
        pyrage.decrypt_file(str(file), str(to), [key])
    except (pyrage.DecryptError, OSError, ValueError) as cause:
        raise BackupError(
            f"{file.name} does not open with this key, or is damaged; give the key that it was made with"
        ) from cause


def _add(archive: tarfile.TarFile, name: str, data: bytes) -> None:
    info = tarfile.TarInfo(name)
    info.size, info.mode = len(data), 0o600
    archive.addfile(info, io.BytesIO(data))


def digest_of(file: Path) -> str:
    found = hashlib.sha256()
    with file.open("rb") as data:
        while piece := data.read(_PIECE):
            found.update(piece)
    return found.hexdigest()
