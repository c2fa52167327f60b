"""Backups: made under load, tried, kept by a rule, restored with every row; odd files are refused and change nothing."""

import gzip
import subprocess
import tarfile
from datetime import UTC, datetime, timedelta
from threading import Event, Thread
from uuid import uuid4

import pytest
from django.contrib.auth.models import User
from django.core.management import call_command
from django.core.management.base import CommandError
from django.db import connection

from server.backups import archive, database, services
from server.backups.keeping import kept
from server.backups.models import Backup
from server.backups.problems import BackupError
from server.logbook.models import Entry, RangeTest
from tests.server.test_account_page import fill

NOON = datetime(2026, 12, 2, 12, tzinfo=UTC)


def test_the_last_of_seven_days_four_weeks_and_twelve_months_is_kept():
    every_day = [NOON - timedelta(days=day) for day in range(500)]
    twice = [*every_day, *(moment - timedelta(hours=6) for moment in every_day)]
    found = kept(twice)
    # By hand: 26 November to 2 December; Sundays 29, 22 and 15 November beside the running week; the ends of
    # eleven months before this one. 29 November is of the days too, 30 November is among the days as well.
    days = [NOON - timedelta(days=day) for day in range(7)]
    assert set(days) <= found
    assert {NOON.replace(month=11, day=22), NOON.replace(month=11, day=15)} <= found
    assert NOON.replace(month=10, day=31) in found
    assert NOON.replace(month=1, day=31) in found
    assert NOON.replace(year=2025, month=12, day=31) not in found
    assert len(found) == 7 + 2 + 10
    assert kept(found) == found
    assert kept([]) == set()


def test_a_pause_of_weeks_takes_no_backup_away():
    old = [NOON - timedelta(days=100 + day) for day in range(7)]
    assert set(old) <= kept([*old, NOON]) | {min(old)}


@pytest.fixture
def run(tmp_path):
    """An installation's own folder."""
    folder = tmp_path / ".run"
    (folder / "lan").mkdir(parents=True)
    (folder / "secret-key").write_text("a secret")
    (folder / "lan" / "authority.pem").write_text("a certificate")
    (folder / "turns").write_text("not of a backup")
    return folder


def everything():
    return dict(database.tables(str(connection.settings_dict["NAME"])))


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("sealed", [False, True])
def test_a_backup_comes_back_with_every_row_and_file_on_an_empty_machine(
    ines, run, tmp_path, sealed
):
    fill(ines)
    key = None
    if sealed:
        key = tmp_path / "key"
        archive.new_key(key)
    made = services.make(tmp_path / "to", run, key)
    assert made.encrypted == sealed
    assert services.last() == made
    Backup.objects.all().delete()
    before = everything()
    [file] = (tmp_path / "to").iterdir()
    assert file.stat().st_mode & 0o777 == 0o600
    if sealed:
        assert b"Sandpiper" not in file.read_bytes()
        assert b"database.sql" not in file.read_bytes()
    # Onto what holds something it does not come.
    with pytest.raises(BackupError, match="holds accounts or tests already"):
        services.restore(file, run, key)
    assert everything() == before
    call_command("flush", verbosity=0, interactive=False)
    assert not RangeTest.objects.exists()
    bare = tmp_path / "bare"
    bare.mkdir()
    about = services.restore(file, bare, key)
    assert everything() == before
    assert about["tables"]["logbook_entry"][0] == Entry.objects.count() > 0
    assert (bare / "secret-key").read_text() == "a secret"
    assert (bare / "lan" / "authority.pem").read_text() == "a certificate"
    assert (bare / "secret-key").stat().st_mode & 0o777 == 0o600
    assert not (bare / "turns").exists()
    assert ines.get("/plans").status_code == 200


@pytest.mark.django_db(transaction=True)
def test_one_that_is_made_while_others_write_is_of_one_moment(ines, run, tmp_path):
    """Each test is written with its entry in one transaction: of neither there is one more than of the other."""
    from django.db import transaction

    stop, begun = Event(), Event()

    def write():
        from django.db import connections

        while not stop.is_set():
            with transaction.atomic():
                test = RangeTest.objects.create(id=uuid4(), owner=ines.user, title="x", sheet={})
                Entry.objects.create(id=uuid4(), test=test, position=0, time_s=0.0, kind="start")
            begun.set()
        connections.close_all()

    writer = Thread(target=write)
    writer.start()
    try:
        assert begun.wait(30)
        services.make(tmp_path / "to", run, None)
    finally:
        stop.set()
        writer.join()
    written = RangeTest.objects.count()
    [file] = (tmp_path / "to").iterdir()
    call_command("flush", verbosity=0, interactive=False)
    about = services.restore(file, run, None)
    assert 0 < RangeTest.objects.count() <= written
    assert RangeTest.objects.count() == Entry.objects.count()
    assert "logbook_entry" not in about["unchanged_tables"]
    assert "kit_vehicle" in about["unchanged_tables"]


@pytest.mark.django_db(transaction=True)
def test_what_is_no_backup_is_refused_and_changes_nothing(ines, run, tmp_path):
    key, other = tmp_path / "key", tmp_path / "other"
    archive.new_key(key)
    archive.new_key(other)
    with pytest.raises(BackupError, match="is there already"):
        archive.new_key(key)
    services.make(tmp_path / "to", run, key)
    [sealed] = (tmp_path / "to").iterdir()
    services.make(tmp_path / "plain", run, None)
    [plain] = (tmp_path / "plain").iterdir()
    User.objects.all().delete()
    before = everything()
    damaged = tmp_path / plain.name
    data = bytearray(plain.read_bytes())
    data[len(data) // 2] ^= 255
    damaged.write_bytes(data)
    cut = tmp_path / f"cut{archive.PLAIN}"
    cut.write_bytes(plain.read_bytes()[:-20_000])
    text = tmp_path / f"text{archive.PLAIN}"
    text.write_text("no backup")
    climbing = tmp_path / f"climbing{archive.PLAIN}"
    with tarfile.open(climbing, "w") as out:
        archive._add(out, "files/../../etc/passwd", b"x")
    bare = tmp_path / f"bare{archive.PLAIN}"
    with tarfile.open(bare, "w") as out:
        archive._add(out, archive.ABOUT, b'{"limpet_backup": 1, "tables": 7}')
        archive._add(out, archive.DUMP, b"x")
    for file, opens, said in (
        (sealed, None, "is sealed"),
        (sealed, other, "does not open with this key"),
        (sealed, tmp_path / "nowhere", "cannot be read"),
        (sealed, text, "holds no key"),
        (damaged, None, "damaged"),
        (cut, None, "damaged"),
        (text, None, "damaged"),
        (climbing, None, "damaged"),
        (bare, None, "damaged"),
        (tmp_path / "nothing", None, "is not there"),
    ):
        with pytest.raises(BackupError, match=said):
            services.restore(file, run, opens)
        assert everything() == before, said
    assert (run / "secret-key").read_text() == "a secret"


@pytest.mark.django_db(transaction=True)
def test_one_of_a_later_version_is_refused(run, tmp_path, monkeypatch):
    from django.db.migrations.recorder import MigrationRecorder

    MigrationRecorder(connection).record_applied("logbook", "9999_later")
    try:
        services.make(tmp_path / "to", run, None)
    finally:
        MigrationRecorder(connection).record_unapplied("logbook", "9999_later")
    [file] = (tmp_path / "to").iterdir()
    with pytest.raises(BackupError, match="which is newer"):
        services.restore(file, run, None)


@pytest.mark.django_db(transaction=True)
def test_a_table_that_comes_back_otherwise_is_no_backup(ines, run, tmp_path, monkeypatch):
    loaded = database.load

    def less(packed, into):
        loaded(packed, into)
        with connection.cursor() as cursor:
            cursor.execute(f"UPDATE `{into}`.auth_user SET first_name = 'x'")

    monkeypatch.setattr(database, "load", less)
    with pytest.raises(BackupError, match="auth_user did not come back"):
        services.make(tmp_path / "to", run, None)
    assert not list((tmp_path / "to").glob("*"))
    assert services.last() is None


@pytest.mark.django_db(transaction=True)
def test_old_ones_go_by_the_rule_and_other_files_stay(run, tmp_path):
    folder = tmp_path / "to"
    folder.mkdir()
    (folder / "notes.txt").write_text("mine")
    for day in range(1, 29):
        (folder / f"limpet-202401{day:02d}T030000Z{archive.PLAIN}").write_text("old")
    services.make(folder, run, None)
    left = sorted(path.name for path in folder.iterdir())
    assert "notes.txt" in left
    # Today's, six days of January 2024, three further weeks; that month has its last day already.
    assert len(left) == 1 + 1 + 6 + 2
    assert f"limpet-20240128T030000Z{archive.PLAIN}" in left


@pytest.mark.django_db(transaction=True)
def test_the_commands_say_what_they_did_and_what_to_do(run, tmp_path, capsys):
    key = tmp_path / "key"
    call_command("backup", "--new-key", str(key), "--run", str(run))
    assert "Keep a copy elsewhere" in capsys.readouterr().out
    call_command("backup", "--to", str(tmp_path / "to"), "--key", str(key), "--run", str(run))
    assert "tried and whole" in capsys.readouterr().out
    [file] = (tmp_path / "to").iterdir()
    with pytest.raises(
        CommandError, match=r"Nothing was restored: limpet-.*is sealed; give its key"
    ):
        call_command("restore", str(file), "--run", str(run))
    call_command("restore", str(file), "--key", str(key), "--run", str(run))
    assert "every one as it was" in capsys.readouterr().out
    with pytest.raises(CommandError, match=r"No backup was made: .* cannot be made"):
        call_command("backup", "--to", str(key / "below"), "--run", str(run))


@pytest.mark.django_db(transaction=True)
def test_the_page_is_told_when_the_last_good_one_was(ines, run, tmp_path):
    assert ines.get("/backups/last").json() == {"made_at": None}
    made = services.make(tmp_path / "to", run, None)
    told = datetime.fromisoformat(ines.get("/backups/last").json()["made_at"])
    assert told == made.made_at


@pytest.mark.django_db(transaction=True)
def test_two_at_once_are_made_one_after_the_other(run, tmp_path):
    other = connection.copy()
    try:
        with other.cursor() as cursor:
            cursor.execute("SELECT GET_LOCK(%s, 0)", [f"{connection.settings_dict['NAME']}.backup"])
            with pytest.raises(BackupError, match="another one is being made"):
                services.make(tmp_path / "to", run, None)
    finally:
        other.close()
    services.make(tmp_path / "to", run, None)


@pytest.mark.django_db(transaction=True)
def test_what_a_dump_holds_reaches_no_shell(tmp_path):
    packed, touched = tmp_path / "dump", tmp_path / "touched"
    packed.write_bytes(gzip.compress(f"\\! touch {touched}\n".encode()))
    with database.scratch() as trial, pytest.raises(BackupError):
        database.load(packed, trial)
    assert not touched.exists()


def test_a_password_is_quoted_as_an_option_file_takes_it(tmp_path):
    file = tmp_path / "options.cnf"
    for password in ("plain", 'with "quotes"', "back\\slash", "a#b;c d"):
        file.write_text(f"[client]\npassword={database._quoted(password)}\n")
        said = subprocess.run(
            ["my_print_defaults", f"--defaults-file={file}", "client"],
            capture_output=True, text=True, check=True,
        ).stdout  # fmt: skip
        assert said == f"--password={password}\n"
