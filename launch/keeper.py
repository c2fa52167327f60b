"""Keeps the server's processes running: one that ends unasked is started again, later each time it does."""

from __future__ import annotations

import ctypes
import os
import signal
import subprocess
import threading
import time
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from launch.paths import ROOT
from launch.say import say

#: How often it is looked at, the first pause before a new start, doubled each time, and the longest [s].
LOOK_S, FIRST_PAUSE_S, LONGEST_PAUSE_S = 0.2, 1.0, 30.0
#: Who served this long had no trouble with its start: the pauses begin anew [s].
SETTLED_S = 60.0


@dataclass
class Child:
    """One process of the server's.

    Parameters
    ----------
    name : as it is told on the terminal within a sentence
    command : its words
    handed : descriptors that it is given
    environment : whole
    """

    name: str
    command: Sequence[str]
    environment: Mapping[str, str]
    handed: Sequence[int] = ()
    process: subprocess.Popen[bytes] | None = field(default=None, init=False)
    begun_s: float = field(default=0.0, init=False)
    pause_s: float = field(default=FIRST_PAUSE_S, init=False)
    again_s: float = field(default=0.0, init=False)
    #: Whether it has ever worked; what never did is not tried for ever.
    worked: bool = field(default=False, init=False)
    _announced: int = field(default=-1, init=False)

    def start(self) -> None:
        """Start the process; it says on a pipe that it works."""
        here, there = os.pipe()
        os.set_blocking(here, False)
        self._announced = here
        self.process = subprocess.Popen(
            [*self.command, "--works", str(there)],
            cwd=ROOT,
            env=dict(self.environment),
            pass_fds=[*self.handed, there],
            preexec_fn=end_with_parent,
        )
        os.close(there)
        self.begun_s = time.monotonic()

    def hear(self) -> None:
        """Note whether it has said that it works."""
        if self._announced < 0:
            return
        try:
            said = os.read(self._announced, 1)
        except BlockingIOError:
            return
        self.worked = self.worked or said == b"1"
        os.close(self._announced)
        self._announced = -1


class Keeper:
    """Runs processes until it is told to stop."""

    def __init__(self, children: Sequence[Child]) -> None:
        self._children = children
        self._stopping = threading.Event()

    def stop(self) -> None:
        """Ask every process to end; `run` returns when all of them have. May be called by a signal."""
        self._stopping.set()
        for child in self._children:
            if child.process is not None and child.process.poll() is None:
                child.process.send_signal(signal.SIGTERM)

    def run(self) -> int:
        """Start the processes and keep them; returns the exit code.

        A process that ends before it ever worked ends all: its words stand on the terminal, and another
        try would say the same.
        """
        for child in self._children:
            child.start()
        code = 0
        while not self._stopping.wait(LOOK_S):
            for child in self._children:
                found = self._look(child)
                if found is not None:
                    code = found
                    self.stop()
                    break
        for child in self._children:
            if child.process is None:
                continue
            # One that was started while it was told to stop has not heard it.
            if child.process.poll() is None:
                child.process.send_signal(signal.SIGTERM)
            child.process.wait()
        return code

    def _look(self, child: Child) -> int | None:
        """Look after one process; its exit code when there is no use in going on."""
        if child.process is None:
            if time.monotonic() >= child.again_s and not self._stopping.is_set():
                say(f"· Starting {child.name} again …")
                child.start()
            return None
        # Asked first: what it said before it ended is then on the pipe for sure.
        code = child.process.poll()
        child.hear()
        if code is None:
            return None
        if not child.worked:
            return code if code > 0 else 1
        if time.monotonic() - child.begun_s > SETTLED_S:
            child.pause_s = FIRST_PAUSE_S
        child.process = None
        child.again_s = time.monotonic() + child.pause_s
        why = f"killed by signal {-code}" if code < 0 else f"with {code}; its last words are above"
        say(f"· {child.name.capitalize()} has ended ({why}). Next start in {child.pause_s:.0f} s.")
        child.pause_s = min(2 * child.pause_s, LONGEST_PAUSE_S)
        return None


def end_with_parent() -> None:
    """Ask Linux to end this process when its parent is killed, so that no server is orphaned."""
    set_parent_death_signal = 1
    ctypes.CDLL(None).prctl(set_parent_death_signal, signal.SIGTERM)
