"""A second command leaves a running database running; a database that dies is brought back."""

from __future__ import annotations

import json
import os
import re
import signal
import subprocess
import sys
import time
from urllib.error import HTTPError
from urllib.request import urlopen

from launch.database import Database
from tests.launch.test_commands import checkout, start, web_servers  # noqa: F401 (a fixture)


def pid_of(folder):
    return int((folder / ".run" / "db" / "mariadbd.pid").read_text())


def answers(address, path="readyz"):
    try:
        with urlopen(f"{address}{path}") as answer:
            found = json.load(answer)
            # When results were looked after differs from time to time.
            found.pop("results", None)
            return answer.status, found
    except HTTPError as error:
        return error.code, json.load(error)


def until(wanted, ask, patience_s=60):
    """Ask until it is so; the last answer when it never is."""
    deadline = time.monotonic() + patience_s
    while True:
        found = ask()
        if wanted(found) or time.monotonic() > deadline:
            return found
        os.sched_yield()


def test_a_second_command_and_a_killed_database(checkout):  # noqa: F811
    server, address = start(checkout, "--workers", "1")
    first = pid_of(checkout)
    try:
        assert answers(address) == (200, {"ready": True})
        # Every password and user command is one of these.
        done = subprocess.run(
            [sys.executable, checkout / "limpet", "manage", "shell", "-c",
             "from django.contrib.auth.models import User; print(User.objects.count())"],
            capture_output=True, text=True, check=False,
        )  # fmt: skip
        assert done.returncode == 0, done.stderr
        assert pid_of(checkout) == first
        assert answers(address) == (200, {"ready": True})

        os.kill(first, signal.SIGKILL)
        # Until it is back: a clear 503, and the page itself stands.
        down = until(lambda found: found[0] == 503, lambda: answers(address), patience_s=5)
        assert down[0] in (200, 503)  # it may be back before anybody asked
        up = until(lambda found: found[0] == 200 and pid_of(checkout) != first, lambda: answers(address))  # fmt: skip
        assert up == (200, {"ready": True})
        assert answers(address, "healthz")[0] == 200
        assert answers(address, "api/session")[0] == 200

        # The server too; who calls while it is away waits for it, and is answered.
        for _ in range(2):
            (web,) = web_servers(server.pid)
            os.kill(web, signal.SIGKILL)
            assert answers(address) == (200, {"ready": True})
            assert web_servers(server.pid) != [web]
        # And the one that computes.
        (results,) = web_servers(server.pid, "compute_results")
        os.kill(results, signal.SIGKILL)
        (again,) = until(
            lambda found: found and found != [results],
            lambda: web_servers(server.pid, "compute_results"),
        )
        assert again != results
    finally:
        os.kill(server.pid, signal.SIGTERM)
        assert server.wait(timeout=30) == 0
        said = server.stdout.read()
        server.stdout.close()
    assert re.search(r"MariaDB has died; starting it again", said)
    # Its second start waits longer than the first one.
    assert re.findall(r"The server has ended \((.+?)\)\. Next start in (\d) s", said) == [
        ("killed by signal 9", "1"), ("killed by signal 9", "2"),
    ]  # fmt: skip
    assert "The process for results has ended (killed by signal 9)" in said
    assert not Database(checkout / ".run" / "db").is_alive


def test_the_last_one_out_stops_the_database(tmp_path):
    one, two = Database(tmp_path / "db"), Database(tmp_path / "db")
    one.start()
    two.start()
    assert one.port == two.port
    one.leave()
    assert two.is_alive
    two.leave()
    assert not two.is_alive
    # Started again it is where it was: a server that waits for it finds it.
    again = Database(tmp_path / "db")
    again.start()
    assert again.port == one.port
    again.leave()
