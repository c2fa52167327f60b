"""Backups made, held against what they were made of, kept by a rule, and restored onto an empty machine."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from datetime import UTC, datetime
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any, Final

from django.db import connection
from django.db.migrations.recorder import MigrationRecorder
from django.utils import timezone

import limpet
from server.backups import archive, database
from server.backups.keeping import kept
from server.backups.models import Backup
from server.backups.problems import BackupError

_NAME: Final = re.compile(r"limpet-(\d{8}T\d{6})Z\.limpet-backup(\.age)?")
_MOMENT: Final = "%Y%m%dT%H%M%S"
#: Tables whose rows make an installation somebody's: while they are empty, nothing can be lost.
_SOMEBODYS: Final = ("auth_user", "logbook_rangetest")

Tables = Mapping[str, tuple[int, int]]
Say = Callable[[str], None]


def make(folder: Path, run: Path, key_file: Path | None, say: Say = lambda text: None) -> Backup:
    """Make a backup while everybody goes on, restore it into a scratch database, and only then count it.

    Parameters
    ----------
    folder : where it is put
    run : the installation's own folder
    key_file : seals it; None leaves it open
    say : told what goes on

    Raises
    ------
    BackupError
        When anything of it fails; what was there before is untouched.

    Notes
    -----
    A table that nobody wrote to in the meantime must come back with the same checksum. Of one that was written
    to there is no other copy of that moment; of it the checksum of what came back is told.
    """
    key = None if key_file is None else archive.read_key(key_file)
    try:
        folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    except OSError as cause:
        raise BackupError(f"{folder} cannot be made: {cause.strerror}") from cause
    made_at = timezone.now().astimezone(UTC).replace(microsecond=0)
    ending = archive.PLAIN if key is None else archive.SEALED
    to = folder / f"limpet-{made_at.strftime(_MOMENT)}Z{ending}"
    try:
        with database.alone(), TemporaryDirectory(prefix="limpet-", dir=folder) as work:
            came = _written(to, made_at, Path(work) / "dump", run, key, say)
            backup = Backup.objects.create(
                file=str(to)[-500:],
                made_at=made_at,
                bytes=to.stat().st_size,
                rows=sum(rows for rows, _ in came.values()),
                encrypted=key is not None,
            )
            _drop_old(folder)
    except OSError as cause:
        raise BackupError(f"{folder} does not take it: {cause.strerror or cause}") from cause
    return backup


def _written(
    to: Path, made_at: datetime, dump: Path, run: Path, key: archive.Key | None, say: Say
) -> Tables:
    """Dump, try, seal and write; the tables as they came back."""
    here = str(connection.settings_dict["NAME"])
    say("Reading every table")
    before = database.tables(here)
    say("Writing the dump")
    database.dump(dump)
    after = database.tables(here)
    say("Restoring it into a scratch database")
    came = _tried(dump)
    about = {
        "limpet_backup": archive.VERSION,
        "limpet": limpet.__version__,
        "made_at": made_at.isoformat(),
        "dump_sha256": archive.digest_of(dump),
        "migrations": sorted(map(list, MigrationRecorder(connection).applied_migrations())),
        "tables": {name: list(found) for name, found in came.items()},
        "unchanged_tables": _agreeing(before, after, came),
    }
    say("Sealing it" if key is not None else "Writing it")
    archive.write(to, about, dump, archive.own_files(run), key)
    return came


def _tried(dump: Path) -> Tables:
    """A dump's tables as they come back in a scratch database."""
    with database.scratch() as trial:
        database.load(dump, trial)
        return database.tables(trial)


def _agreeing(before: Tables, after: Tables, came: Tables) -> list[str]:
    """The tables that nobody wrote to meanwhile; each came back as it was."""
    lost = sorted((before.keys() & after.keys()) - came.keys())
    if lost:
        raise BackupError(f"the dump lacks {', '.join(lost)}; try again")
    still = sorted(name for name in came if before.get(name) == after.get(name))
    odd = [name for name in still if came[name] != before[name]]
    if odd:
        raise BackupError(f"{', '.join(odd)} did not come back as it was; this backup is not kept")
    return still


def _drop_old(folder: Path) -> None:
    """Remove the backups that the rule does not keep; files of another name are nobody's business here."""
    found: dict[datetime, Path] = {}
    for path in folder.iterdir():
        said = _NAME.fullmatch(path.name)
        if said is not None:
            found[datetime.strptime(said[1], _MOMENT).replace(tzinfo=UTC)] = path
    for moment in found.keys() - kept(found):
        found[moment].unlink()


def restore(
    file: Path, run: Path, key_file: Path | None, say: Say = lambda text: None
) -> dict[str, Any]:
    """Restore a backup onto an installation that has nothing yet.

    Returns
    -------
    what the backup says of itself

    Raises
    ------
    BackupError
        When there is something already, or the backup is damaged or of a later version; nothing has changed then.
    """
    key = None if key_file is None else archive.read_key(key_file)
    here = str(connection.settings_dict["NAME"])
    there = database.tables(here)
    if any(there.get(name, (0, 0))[0] for name in _SOMEBODYS):
        raise BackupError(
            "this Limpet holds accounts or tests already; restore into a new folder, or move .run/db away first"
        )
    with database.alone(), archive.opened(file, key) as opened:
        _known(opened.about)
        told = opened.tables
        say("Trying it in a scratch database")
        if dict(_tried(opened.dump)) != told:
            raise BackupError(f"{file.name} does not come back as it was made; take another one")
        say("Restoring the database")
        database.empty(here)
        database.load(opened.dump, here)
        if dict(database.tables(here)) != told:
            raise BackupError(
                f"{file.name} came back otherwise than it was made; do not use this database"
            )
        for name, data in opened.files.items():
            place = run / name
            place.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
            place.touch(mode=0o600)
            place.write_bytes(data)
        return dict(opened.about)


def _known(about: Mapping[str, Any]) -> None:
    """Refuse what a later version made: its tables are unknown here."""
    from django.db.migrations.loader import MigrationLoader

    known = set(MigrationLoader(connection).disk_migrations)
    ours = {app for app, _ in known}
    later = [
        f"{app} {name}"
        for app, name in map(tuple, about["migrations"])
        if app in ours and (app, name) not in known
    ]
    if later:
        raise BackupError(
            f"this backup is of Limpet {about.get('limpet')}, which is newer; restore it with that version"
        )


def last() -> Backup | None:
    """The newest backup that came back whole."""
    return Backup.objects.order_by("-made_at").first()
