"""The application started as ./limpet start does it: on sockets that are ours before it is."""

from __future__ import annotations

import os
import shutil
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


def copy_of_checkout(folder: Path) -> None:
    """A second checkout in a folder, which shares only what takes minutes to install."""
    for name in ("launch", "src", "server", "standins", "demo", "docs", "requirements"):
        shutil.copytree(ROOT / name, folder / name, ignore=shutil.ignore_patterns("__pycache__"))
    shutil.copy(ROOT / "limpet", folder)
    left_out = shutil.ignore_patterns("node_modules", "dist")
    shutil.copytree(ROOT / "web", folder / "web", ignore=left_out)
    for name in ("web/node_modules", "web/dist", ".venv"):
        (folder / name).symlink_to(ROOT / name)
    (folder / ".run").mkdir()
    shutil.copy(ROOT / ".run" / "page-built", folder / ".run")
