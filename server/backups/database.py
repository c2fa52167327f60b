"""MariaDB's own programs: a dump of one moment while others write, and its loading."""

from __future__ import annotations

import gzip
import os
import re
import shutil
import subprocess
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path
from tempfile import NamedTemporaryFile
from typing import Any, Final

from django.db import connection

from server.backups.problems import BackupError

#: What stands at the end of a dump that was written to its end.
_COMPLETED: Final = b"-- Dump completed"
_PIECE: Final = 1 << 20
_PLAIN_NAME: Final = re.compile(r"[A-Za-z0-9_]{1,60}")


@contextmanager
def _account() -> Iterator[str]:
    """A file that only this user can read, with how the database is reached: no password on a command line."""
    told: Mapping[str, Any] = connection.settings_dict
    with NamedTemporaryFile("w", prefix="limpet-", suffix=".cnf") as file:
        os.chmod(file.name, 0o600)
        file.write(
            "[client]\n"
            f"host={told['HOST']}\nport={told['PORT']}\nprotocol=tcp\n"
            f"user={told['USER']}\npassword={_quoted(str(told['PASSWORD']))}\n"
        )
        file.flush()
        yield f"--defaults-file={file.name}"


def _quoted(text: str) -> str:
    """A value as an option file takes it."""
    return '"' + text.replace("\\", "\\\\").replace('"', '\\"') + '"'


def _program(name: str) -> str:
    found = shutil.which(name)
    if found is None:
        raise BackupError(f"{name} is not installed; install Debian’s package mariadb-client")
    return found


def dump(to: Path) -> None:
    """Write all of this database as it is at one moment, packed. Nobody waits for it.

    Raises
    ------
    BackupError
        When the dump did not come to its end.
    """
    name = str(connection.settings_dict["NAME"])
    with _account() as account:
        command = [
            _program("mariadb-dump"), account, "--single-transaction", "--quick", "--hex-blob",
            "--no-tablespaces", "--default-character-set=utf8mb4", "--skip-dump-date", name,
        ]  # fmt: skip
        last = b""
        with (
            subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.PIPE) as running,
            gzip.open(to, "wb", compresslevel=5) as packed,
        ):
            assert running.stdout is not None
            assert running.stderr is not None
            while piece := running.stdout.read(_PIECE):
                packed.write(piece)
                last = (last + piece)[-200:]
            said = running.stderr.read().decode(errors="replace").strip()
    if running.returncode != 0 or _COMPLETED not in last:
        raise BackupError(f"the database could not be dumped: {said or 'it broke off'}")


def load(packed: Path, into: str) -> None:
    """Load a dump into a database that is there. What is in it reaches the database alone, no file and no shell.

    Raises
    ------
    BackupError
        When the dump is damaged, or the database refuses it.
    """
    with _account() as account:
        command = [
            _program("mariadb"),
            account,
            "--default-character-set=utf8mb4",
            "--sandbox",
            into,
        ]
        with subprocess.Popen(command, stdin=subprocess.PIPE, stderr=subprocess.PIPE) as running:
            assert running.stdin is not None
            assert running.stderr is not None
            trouble = ""
            try:
                with gzip.open(packed, "rb") as pieces:
                    while piece := pieces.read(_PIECE):
                        running.stdin.write(piece)
                running.stdin.close()
            except BrokenPipeError:
                trouble = "the database stopped reading"
            except (OSError, EOFError) as cause:
                running.kill()
                trouble = f"the dump is damaged ({cause})"
            said = running.stderr.read().decode(errors="replace").strip()
    if trouble or running.returncode != 0:
        raise BackupError(f"the dump could not be loaded: {said or trouble}")


@contextmanager
def alone() -> Iterator[None]:
    """Let nobody else back up or restore this database meanwhile.

    Raises
    ------
    BackupError
        When somebody does already.
    """
    name = f"{connection.settings_dict['NAME']}.backup"
    with connection.cursor() as cursor:
        cursor.execute("SELECT GET_LOCK(%s, 0)", [name])
        if cursor.fetchone()[0] != 1:
            raise BackupError("another one is being made or restored; wait for it")
        try:
            yield
        finally:
            cursor.execute("SELECT RELEASE_LOCK(%s)", [name])


@contextmanager
def scratch() -> Iterator[str]:
    """A database of its own for a trial, dropped afterwards."""
    name = f"{connection.settings_dict['NAME']}_test_restore"
    if not _PLAIN_NAME.fullmatch(name):
        raise BackupError(f"{name} is no name that a database of a trial can have")
    _make(name)
    try:
        yield name
    finally:
        with connection.cursor() as cursor:
            cursor.execute(f"DROP DATABASE IF EXISTS `{name}`")


def _make(name: str) -> None:
    with connection.cursor() as cursor:
        cursor.execute(f"DROP DATABASE IF EXISTS `{name}`")
        cursor.execute(f"CREATE DATABASE `{name}` CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci")


def tables(of: str) -> dict[str, tuple[int, int]]:
    """Rows and checksum of every table of a database, by its name."""
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT table_name FROM information_schema.tables"
            " WHERE table_schema = %s AND table_type = 'BASE TABLE'",
            [of],
        )
        names = sorted(row[0] for row in cursor.fetchall())
        found = {}
        for name in names:
            cursor.execute(f"CHECKSUM TABLE `{of}`.`{name}`")
            checksum = cursor.fetchone()[1]
            cursor.execute(f"SELECT COUNT(*) FROM `{of}`.`{name}`")
            found[name] = (int(cursor.fetchone()[0]), int(checksum or 0))
    return found


def empty(name: str) -> None:
    """Drop every table of a database, whatever points at what."""
    with connection.cursor() as cursor:
        cursor.execute("SET FOREIGN_KEY_CHECKS = 0")
        for table in tables(name):
            cursor.execute(f"DROP TABLE `{name}`.`{table}`")
        cursor.execute("SET FOREIGN_KEY_CHECKS = 1")
