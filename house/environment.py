"""The virtual environment, the page's packages and the page itself; each made once, then reused."""

from __future__ import annotations

import os
import sys
from pathlib import Path

from house.machine import ensure_packages
from house.paths import DIST, PYTHON, ROOT, RUN, VENV, WEB, digest, is_current
from house.say import run, step

_QUIET_PIP = ["--disable-pip-version-check", "--quiet", "--no-input"]


def prepare(*, tests: bool) -> None:
    """Everything that must be there before Limpet can be started, or tested."""
    RUN.mkdir(exist_ok=True)
    ensure_packages(tests=tests)
    _virtual_environment(tests=tests)
    _node_modules()
    build_page()


def _virtual_environment(*, tests: bool) -> None:
    for name in ("app", "dev") if tests else ("app",):
        locked = ROOT / "requirements" / f"{name}.txt"
        wanted = digest([locked]) + sys.version
        stamp = VENV / f".{name}-installed"
        if is_current(stamp, wanted):
            continue
        with step(f"Installing Python packages ({name}.txt, pinned and hashed)"):
            if not PYTHON.is_file():
                run([sys.executable, "-m", "venv", VENV], why="making .venv")
            install: list[str | Path] = [
                PYTHON,
                "-m",
                "pip",
                "install",
                *_QUIET_PIP,
                "--require-hashes",
            ]
            run([*install, "-r", locked], why=f"installing {locked.name}")
            stamp.write_text(wanted)


def _node_modules() -> None:
    lock = WEB / "package-lock.json"
    wanted = digest([lock])
    stamp = WEB / "node_modules" / ".limpet-installed"
    if is_current(stamp, wanted):
        return
    with step("Installing the page's packages (npm ci)"):
        # Debian ships one npm and Node's own archive another; both understand these.
        command = ["npm", "ci", "--no-audit", "--no-fund", "--loglevel=error"]
        run(command, why="npm ci", cwd=WEB)
        stamp.write_text(wanted)


def build_page() -> None:
    """Build web/dist when anything it is made of has changed."""
    sources = [path for path in (WEB / "src").rglob("*") if path.is_file()]
    sources += [path for path in (WEB / "public").rglob("*") if path.is_file()]
    tops = ("index.html", "package-lock.json", "vite.config.ts", "tsconfig.json")
    sources += [WEB / name for name in tops]
    wanted = digest(sources)
    stamp = RUN / "page-built"
    if is_current(stamp, wanted) and (DIST / "index.html").is_file():
        return
    with step("Building the page"):
        environment = {**os.environ, "NODE_ENV": "production"}
        run(["npm", "run", "--silent", "build"], why="building the page", cwd=WEB, env=environment)
        stamp.write_text(wanted)
