"""The application started as ./limpet start does it: on sockets that are ours before it is."""

from __future__ import annotations

import os
import socket
import subprocess
import sys
from collections.abc import Sequence
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]


def serve(
    page: socket.socket, beside: Sequence[socket.socket] = (), *, demo: bool = False, **more: str
) -> subprocess.Popen[str]:
    """Start the server and wait until it listens; `more` goes into its environment.

    Raises
    ------
    RuntimeError
        When it ends before it serves.
    """
    handed = [one.fileno() for one in (page, *beside)]
    module = "demo.serve" if demo else "server.serve"
    command = [sys.executable, "-m", module, "--socket", str(handed[0])]
    command += ["--lan-sockets", *map(str, handed[1:])] if beside else []
    known = {**os.environ, **({} if demo else {"LIMPET_WITH_DEMO": "0"}), **more}
    server = subprocess.Popen(
        command, cwd=ROOT, env=known, stdout=subprocess.PIPE, text=True, pass_fds=handed
    )
    assert server.stdout is not None
    if not any("Limpet is at" in line for line in server.stdout):
        raise RuntimeError(f"the server ended with {server.wait()} before it served")
    return server


def port_of(page: socket.socket) -> int:
    """The port that a socket listens on."""
    return int(page.getsockname()[1])
