"""How long an analysis takes: notes, logs of three lengths, a ride under way, a vehicle learned, a process."""

from __future__ import annotations

import os
import subprocess
import sys
from collections.abc import Callable
from dataclasses import replace
from functools import partial
from pathlib import Path

from demo.skerrow import ridden
from limpet.evidence.model import RangeTest
from limpet.history import facts_of, learn_from
from limpet.tell import analyse
from limpet.under_way import advise, follow

Timing = Callable[[Callable[[], object]], tuple[float, float]]
Line = Callable[..., None]

LENGTHS = (10_000, 100_000, 1_000_000)
READ = "import sys, polars; polars.read_csv(sys.argv[1])"


def bench_core(best_of: Timing, line: Line, logged: Callable[[int, float], RangeTest]) -> None:
    """In memory: the evidence stands there, the answer is made."""
    notes = ridden("sandpiper-worn-twin")
    line("notes alone, all draws", best_of(lambda: analyse(notes)), "0.015 s")
    for rows in LENGTHS:
        long = logged(rows, 50.0)
        aim = "0.150 s" if rows == 100_000 else "-"
        line(f"{rows:,} samples in memory", best_of(partial(analyse, long)), aim)
    bars = ridden("turnstone-bars")
    line("follow, bars and a trip meter", best_of(lambda: follow(bars)), "0.050 s")
    track = ridden("sandpiper-lighthouse")
    assert track.samples is not None
    line(f"follow, a log of {len(track.samples)}", best_of(lambda: follow(track)), "0.050 s")
    line("advice on the way, bars", best_of(lambda: advise(bars)), "0.200 s")
    under_way = advise(bars)
    line("the table for a device", best_of(under_way.table), "-")
    facts = facts_of(notes, analyse(notes))
    kept = [replace(facts, title=str(k)) for k in range(50)]
    line(
        "a vehicle learned from 50 kept tests",
        best_of(lambda: learn_from(kept, facts.vehicle, facts.pack)),
        "1 s",
    )


def bench_process(best_of: Timing, line: Line, folder: Path) -> None:
    """The command from start to end against a process that only reads the file, and its memory."""
    reading = [sys.executable, "-c", READ, str(folder / "samples.csv")]
    command = [sys.executable, "-m", "limpet.cli", "analyse", str(folder), "--json"]
    yardstick = best_of(lambda: _run(reading))
    line("yardstick: a process that reads it with polars", yardstick, "-")
    whole = best_of(lambda: _run(command))
    line("the command analyse, start to end", whole, "2 x", whole[0] / yardstick[0])
    for what, run in (("reading alone", reading), ("the command", command)):
        print(f"{f'peak memory, {what}':<52}{_peak_gib(run):8.2f} GiB  aim 1 GiB")


def _run(command: list[str]) -> None:
    subprocess.run(command, check=True, stdout=subprocess.DEVNULL)


def _peak_gib(command: list[str]) -> float:
    """Resident memory of one process at its most [GiB]."""
    process = subprocess.Popen(command, stdout=subprocess.DEVNULL)
    _, status, usage = os.wait4(process.pid, 0)
    process.returncode = os.waitstatus_to_exitcode(status)
    if process.returncode:
        raise subprocess.CalledProcessError(process.returncode, command)
    return float(usage.ru_maxrss / 2**20)
