"""The one command, run as a user runs it."""

import json
import os
import re
import signal
import socket
import subprocess
import sys
import time
from pathlib import Path
from types import SimpleNamespace
from urllib.error import HTTPError
from urllib.request import Request, urlopen
from uuid import uuid4

import pytest

from launch import commands, machine
from launch import environment as env
from launch.database import Database
from launch.paths import digest, is_current
from launch.say import Trouble, run
from tests.bench.house import Caller
from tests.serving import copy_of_checkout

ROOT = Path(__file__).resolve().parents[2]


def limpet(*arguments, **options):
    return subprocess.run(
        [sys.executable, ROOT / "limpet", *arguments],
        capture_output=True, text=True, check=False, timeout=120, **options,
    )  # fmt: skip


def test_help_names_every_command():
    done = limpet("--help")
    assert done.returncode == 0
    for name in (
        "start",
        "test",
        "analyse",
        "forecast",
        "claim",
        "size",
        "bench",
        "check",
        "shots",
        "types",
        "manage",
    ):
        assert re.search(rf"^ +{name} ", done.stdout, re.MULTILINE), name


def test_an_unknown_command_or_flag_is_refused():
    assert limpet("fly").returncode == 2
    done = limpet("start", "--sunny")
    assert done.returncode == 2
    assert "unknown: --sunny" in done.stderr


@pytest.mark.parametrize(
    ("port", "words"), [("0", "ports go from 1 to 65535"), ("70000", "1 to 65535")]
)
def test_an_impossible_port_is_refused(port, words):
    done = limpet("start", "--port", port)
    assert done.returncode == 1
    assert words in done.stderr


def test_a_port_in_use_is_named():
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        done = limpet("start", "--port", str(port))
    assert done.returncode == 1
    assert f"port {port} of 127.0.0.1 is in use; choose another" in done.stderr


def test_analyse_without_a_bundle_says_what_it_needs(tmp_path):
    done = limpet("analyse", str(tmp_path / "nothing"))
    assert done.returncode == 2
    assert "give a bundle's folder or zip" in done.stderr


@pytest.fixture
def nothing_there(monkeypatch):
    monkeypatch.setattr(
        machine, "NEEDED", [("mariadb-server-core", lambda: False), ("python3-venv", lambda: True)]
    )
    monkeypatch.setattr(machine, "has_driver", lambda: True)


def test_who_is_not_root_is_told_the_exact_line(monkeypatch, nothing_there):
    monkeypatch.setattr(os, "geteuid", lambda: 1000)
    with pytest.raises(Trouble) as caught:
        machine.ensure_packages(tests=False)
    assert (
        "apt-get update && apt-get install -y --no-install-recommends mariadb-server-core\n"
        in str(caught.value)
    )


def test_root_gets_what_is_missing_after_a_fresh_list(monkeypatch, nothing_there):
    asked = []
    monkeypatch.setattr(os, "geteuid", lambda: 0)
    monkeypatch.setattr(machine, "run", lambda command, **_: asked.append(command))
    machine.ensure_packages(tests=False)
    assert asked[0] == ["apt-get", "update"]
    assert asked[1][-1] == "mariadb-server-core"
    assert "python3-venv" not in asked[1]


@pytest.fixture
def no_driver(monkeypatch):
    """A machine without Debian's driver, and what is asked of its package manager."""
    asked = []
    monkeypatch.setattr(machine, "NEEDED", [])
    monkeypatch.setattr(machine, "has_driver", lambda: False)
    monkeypatch.setattr(machine, "_try_to_install", lambda package, _: asked.append(package))
    monkeypatch.setattr(
        machine, "TO_BUILD_DRIVER", [("gcc", lambda: False), ("pkg-config", lambda: True)]
    )
    monkeypatch.setattr(machine, "run", lambda command, **_: asked.append(command[-1]))
    return asked


def test_the_driver_is_debians_and_is_built_only_where_that_cannot_be_had(monkeypatch, no_driver):
    monkeypatch.setattr(os, "geteuid", lambda: 0)
    machine.ensure_packages(tests=False)
    assert no_driver == ["python3-mysqldb", "update", "gcc"]


def test_who_has_a_driver_needs_no_other(no_driver):
    machine.ensure_packages(tests=False, has_own_driver=True)
    assert no_driver == []


def test_who_is_not_root_is_told_of_the_driver_too(monkeypatch, no_driver):
    monkeypatch.setattr(os, "geteuid", lambda: 1000)
    with pytest.raises(Trouble, match="--no-install-recommends python3-mysqldb"):
        machine.ensure_packages(tests=False)


@pytest.mark.parametrize("is_there", [True, False])
def test_debians_driver_is_linked_into_the_environment(monkeypatch, tmp_path, is_there):
    asked = []
    monkeypatch.setattr(env, "VENV", tmp_path)
    monkeypatch.setattr(env, "has_driver", lambda: is_there)
    monkeypatch.setattr(env, "_install", lambda name, what: asked.append(name))
    own = env._own_driver()
    own.parent.mkdir(parents=True)
    # One that leads nowhere any more is made anew.
    own.symlink_to(tmp_path / "gone")
    env._driver()
    assert asked == ([] if is_there else ["driver"])
    if is_there:
        assert own.readlink() == machine.DEBIAN_PACKAGES / "MySQLdb"


@pytest.mark.parametrize(
    ("says", "is_new_enough"),
    [("v16.1.0", False), ("v18.20.4", False), ("v20.1.0", True), ("v24.19.0", True), ("", False)],
)
def test_an_old_node_is_left_aside_for_the_one_that_is_shipped(
    monkeypatch, tmp_path, says, is_new_enough
):
    for name in ("node", "npm"):
        program = tmp_path / name
        program.write_text(f"#!/bin/sh\necho {says}\n")
        program.chmod(0o755)
    monkeypatch.setenv("PATH", f"{tmp_path}:{os.environ['PATH']}")
    assert machine.has_node() is is_new_enough
    asked = []
    monkeypatch.setattr(env, "_install", lambda name, what: asked.append(name))
    env._node()
    assert asked == ([] if is_new_enough else ["node"])
    first = env.node_environment()["PATH"].split(os.pathsep)[0]
    assert first == (str(tmp_path) if is_new_enough else str(env.VENV / "bin"))


def test_a_failing_step_shows_its_last_lines_and_stops(capsys):
    with pytest.raises(Trouble, match="baking failed"):
        run(["sh", "-c", "echo no flour; exit 3"], why="baking")
    assert "no flour" in capsys.readouterr().err


def test_a_step_is_done_again_only_when_its_inputs_change(tmp_path, monkeypatch):
    monkeypatch.setattr("launch.paths.ROOT", tmp_path)
    (tmp_path / "lock").write_text("one")
    stamp = tmp_path / "stamp"
    wanted = digest([tmp_path / "lock"])
    assert not is_current(stamp, wanted)
    stamp.write_text(wanted)
    assert is_current(stamp, digest([tmp_path / "lock"]))
    (tmp_path / "lock").write_text("two")
    assert not is_current(stamp, digest([tmp_path / "lock"]))


def test_what_is_installed_is_not_installed_again(monkeypatch):
    monkeypatch.setattr(env, "run", lambda command, **_: pytest.fail(f"ran {command}"))
    env.prepare(tests=True)


@pytest.fixture
def checkout(tmp_path):
    """A second checkout that shares only what takes minutes to install."""
    copy = tmp_path / "checkout"
    copy_of_checkout(copy)
    yield copy
    Database(copy / ".run" / "db").stop()


def start(checkout, *arguments):
    """Start a checkout's application; gives the process and its address."""
    server = subprocess.Popen(
        [sys.executable, checkout / "limpet", "start", "--no-demo", *arguments],
        stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True, start_new_session=True,
    )  # fmt: skip
    seen = []
    for line in server.stdout:
        seen.append(line)
        if found := re.search(r"Limpet is at (\S+)", line):
            return server, found.group(1)
    raise AssertionError("".join(seen))


def web_servers(pid, which=r"(server|demo)\.serve"):
    """The servers below a ./limpet start; the database may outlive it and is taken over."""
    found = []
    for status in Path("/proc").glob("[0-9]*/status"):
        try:
            parent = re.search(r"^PPid:\s+(\d+)", status.read_text(), re.MULTILINE)
            words = (status.parent / "cmdline").read_text()
        except (FileNotFoundError, ProcessLookupError):
            continue  # it ended while we looked
        if parent and int(parent.group(1)) == pid and re.search(which, words):
            found.append(int(status.parent.name))
    return found


def gone(pid):
    deadline = time.monotonic() + 20
    while time.monotonic() < deadline:
        try:
            state = Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0]
        except FileNotFoundError:
            return True
        if state == "Z":
            return True
        os.sched_yield()
    return False


def a_result_is_computed(address):
    """By the process that has nothing else to do, and is called through a pipe."""
    rider = Caller(SimpleNamespace(address=address.rstrip("/")), "noor")
    rider.enter()
    ride = str(uuid4())
    begun = {"title": "Quay loop", "started_at": "2026-05-14T09:12:00+02:00", **rider.kit}
    rider.once("PUT", f"/tests/{ride}", begun)
    for time_s, volts in ((0, 54.2), (1800, 51.0)):
        read = {"voltage_rest_v": volts, "trip_m": 5 * time_s}
        kind = "checkpoint" if time_s else "start"
        rider.once("PUT", f"/tests/{ride}/entries/{uuid4()}", {"time_s": time_s, "kind": kind, **read})  # fmt: skip
    rider.once("PUT", f"/tests/{ride}/ending", {"reason": "home"})
    deadline = time.monotonic() + 60
    while rider.once("GET", f"/tests/{ride}?kept=true")["computed"] != "fresh":
        assert time.monotonic() < deadline, "nobody computes it"


@pytest.mark.parametrize("workers", ["0", "65", "many"])
def test_a_number_of_processes_that_cannot_be_is_said(workers, capsys):
    with pytest.raises(SystemExit):
        commands.main(["start", "--workers", workers])
    assert "is no number from 1 to 64" in capsys.readouterr().err


def test_start_serves_stops_cleanly_and_recovers_from_a_kill(checkout):
    server, _ = start(checkout)
    second = subprocess.run(
        [sys.executable, checkout / "limpet", "start", "--no-demo"],
        capture_output=True,
        text=True,
        check=False,
    )
    assert second.returncode == 1
    assert "running from this checkout already: http://127.0.0.1:" in second.stderr
    database = int((checkout / ".run" / "db" / "mariadbd.pid").read_text())
    os.kill(server.pid, signal.SIGINT)
    assert server.wait(timeout=30) == 0
    assert gone(database)
    server.stdout.close()

    killed, address = start(checkout, "--workers", "2")
    a_result_is_computed(address)
    web = web_servers(killed.pid, r"server\.serve|compute_results")
    assert len(web) == 3, "two that serve, and one for results"
    os.kill(killed.pid, signal.SIGKILL)
    killed.wait(timeout=10)
    assert all(gone(pid) for pid in web), "no server is left behind"
    killed.stdout.close()

    again, address = start(checkout)
    with urlopen(f"{address}api/session") as answer:
        assert json.load(answer)["demo_offered"] is False, "--no-demo loads none"
    with pytest.raises(HTTPError, match="400"):
        urlopen(Request(address, headers={"Host": "evil.example"}))
    os.kill(again.pid, signal.SIGTERM)
    assert again.wait(timeout=30) == 0
    assert "evil.example" not in again.stdout.read(), "who is refused leaves no trace"
    again.stdout.close()
