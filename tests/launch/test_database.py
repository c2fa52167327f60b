"""The private MariaDB: its own, clean at its end, whole after a kill."""

import os
import signal

import MySQLdb
import pytest

from launch import database as module
from launch.database import Database
from launch.sockets import listen


def rows(database, sql):
    connection = MySQLdb.connect(
        host="127.0.0.1",
        port=database.port,
        user="limpet",
        password=database.password,
        database="limpet",
    )
    with connection.cursor() as cursor:
        cursor.execute(sql)
        found = cursor.fetchall()
    connection.commit()
    connection.close()
    return found


def pid_of(database):
    return int((database.home / "mariadbd.pid").read_text())


@pytest.fixture
def database(tmp_path):
    made = Database(tmp_path / ("deep-" * 18) / "db")
    made.home.parent.mkdir()
    made.start()
    yield made
    made.stop()


def test_a_killed_database_comes_back_with_what_was_acknowledged(database):
    rows(database, "CREATE TABLE notes (v INT)")
    rows(database, "INSERT INTO notes VALUES (42)")
    pid = pid_of(database)
    os.kill(pid, signal.SIGKILL)
    database.stop()  # nothing to stop is not an error
    again = Database(database.home)
    again.start()
    assert rows(again, "SELECT v FROM notes") == ((42,),)


def test_it_leaves_the_temporary_tables_of_other_servers_alone(database, monkeypatch, tmp_path):
    """A server that starts takes away what lies in its folder for them: in a shared one that of a running one."""
    assert rows(database, "SELECT @@tmpdir") == ((str(database.home / "tmp"),),)
    shared = tmp_path / "shared"
    shared.mkdir()
    in_use = [shared / "#sql-temptable-1-2-3.MAI", shared / "#sql-temptable-1-2-3.MAD"]
    for file in in_use:
        file.touch()
    monkeypatch.setenv("TMPDIR", str(shared))
    other = Database(tmp_path / "other")
    other.start()
    other.stop()
    assert all(file.is_file() for file in in_use)


def test_one_that_a_killed_run_left_behind_is_used_again(database):
    again = Database(database.home)
    again.start()
    assert (again.port, pid_of(again)) == (database.port, pid_of(database))


def test_it_listens_on_loopback_only_and_wants_its_password(database):
    assert rows(database, "SELECT @@bind_address") == (("127.0.0.1",),)
    with pytest.raises(MySQLdb.OperationalError):
        MySQLdb.connect(host="127.0.0.1", port=database.port, user="limpet", password="guess")
    with pytest.raises(MySQLdb.OperationalError):
        MySQLdb.connect(host="127.0.0.1", port=database.port, user="root", password="")
    assert (database.home / "password").stat().st_mode & 0o077 == 0


def test_two_checkouts_do_not_collide(database, tmp_path):
    other = Database(tmp_path / "other")
    other.start()
    try:
        assert other.port != database.port
        assert other.password != database.password
    finally:
        other.stop()


def test_a_port_that_is_taken_between_the_look_and_the_start_is_left_to_whoever_has_it(
    database, tmp_path, monkeypatch
):
    """One holder says nothing, the other is a MariaDB too and greets as ours would."""
    with listen("127.0.0.1") as silent:
        looked = iter([silent.getsockname()[1], database.port, free := module.free_port()])
        monkeypatch.setattr(module, "free_port", lambda: next(looked))
        other = Database(tmp_path / "other")
        other.start()
        try:
            assert other.port == free
            assert rows(other, "SELECT 1") == ((1,),)
        finally:
            other.stop()
