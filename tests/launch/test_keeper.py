"""What ends unasked is started again, and what cannot start is not tried for ever."""

from __future__ import annotations

import os
import sys
import threading

from launch import keeper
from launch.keeper import Child, Keeper

#: Says that it works as the server does, notes that it ran, and ends with 3.
WORKS = """
import os, sys
os.write(int(sys.argv[sys.argv.index("--works") + 1]), b"1")
with open(sys.argv[1], "a") as ran:
    ran.write("x")
sys.exit(3)
"""


def child(folder, program):
    return Child(
        "the server", [sys.executable, "-c", program, str(folder / "ran")], dict(os.environ)
    )


def test_who_never_worked_is_not_started_again(tmp_path, capfd):
    program = "import sys; print('no such setting', file=sys.stderr); sys.exit(7)"
    ended: list[int] = []
    kept = Keeper([child(tmp_path, program)])
    # One that starts it again for ever would never return.
    runner = threading.Thread(target=lambda: ended.append(kept.run()), daemon=True)
    runner.start()
    runner.join(timeout=60)
    kept.stop()
    assert ended == [7]
    assert "again" not in capfd.readouterr().out


def test_each_new_start_waits_longer_and_says_why(tmp_path, capfd, monkeypatch):
    monkeypatch.setattr(keeper, "LOOK_S", 0.01)
    monkeypatch.setattr(keeper, "LONGEST_PAUSE_S", 0.2)
    crashing = child(tmp_path, WORKS)
    crashing.pause_s = 0.05
    kept = Keeper([crashing])
    runner = threading.Thread(target=kept.run)
    runner.start()
    while not (tmp_path / "ran").exists() or len((tmp_path / "ran").read_text()) < 4:
        os.sched_yield()
    kept.stop()
    runner.join(timeout=20)
    assert not runner.is_alive()
    said = capfd.readouterr().out
    assert said.count("ended (with 3; its last words are above)") >= 3
    assert said.count("Starting the server again") >= 3
    assert crashing.pause_s == 0.2, "doubled, up to the longest"


def test_what_served_for_long_begins_anew_with_the_shortest_pause(tmp_path, capfd, monkeypatch):
    monkeypatch.setattr(keeper, "SETTLED_S", 0.0)
    once = child(tmp_path, WORKS)
    once.pause_s = keeper.LONGEST_PAUSE_S
    kept = Keeper([once])
    runner = threading.Thread(target=kept.run)
    runner.start()
    while once.pause_s == keeper.LONGEST_PAUSE_S and runner.is_alive():
        os.sched_yield()
    kept.stop()
    runner.join(timeout=20)
    assert "Next start in 1 s" in capfd.readouterr().out


def test_told_to_stop_it_ends_what_runs(tmp_path):
    program = 'import os, sys, time; open(sys.argv[1], "w").close(); time.sleep(600)'
    long = child(tmp_path, program)
    kept = Keeper([long])
    ended = []
    runner = threading.Thread(target=lambda: ended.append(kept.run()))
    runner.start()
    while not (tmp_path / "ran").exists():
        os.sched_yield()
    kept.stop()
    runner.join(timeout=20)
    assert ended == [0]
    assert long.process.poll() is not None
