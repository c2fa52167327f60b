"""The virtual environment, the page's packages and the page itself; each made once, then reused."""

from __future__ import annotations

import os
import sys
import sysconfig
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from launch.machine import DEBIAN_PACKAGES, ensure_packages, has_driver, has_node
from launch.paths import DIST, PYTHON, ROOT, RUN, VENV, WEB, digest, is_current
from launch.say import run, say, step

_QUIET_PIP = ["--disable-pip-version-check", "--quiet", "--no-input"]


def prepare(*, tests: bool) -> None:
    """Everything that must be there before Limpet can be started, or tested.

    Notes
    -----
    Python's packages and the page are made beside each other: one waits for the network while the
    other has a processor.
    """
    RUN.mkdir(exist_ok=True)
    ensure_packages(tests=tests, has_own_driver=_own_driver().is_dir())
    if not PYTHON.is_file():
        say("The first time this takes about a minute and a half. What is done is not done again.")
        run([sys.executable, "-m", "venv", VENV], why="making .venv")
    _node()
    with ThreadPoolExecutor(1) as beside:
        python = beside.submit(_python_packages, tests=tests)
        _node_modules()
        build_page()
        python.result()


def _python_packages(*, tests: bool) -> None:
    for name in ("app", "dev") if tests else ("app",):
        _install(name, f"Installing Python packages ({name}.txt, pinned and hashed)")
    _driver()


def _own_driver() -> Path:
    return VENV / "lib" / f"python{sysconfig.get_python_version()}" / "site-packages" / "MySQLdb"


def _driver() -> None:
    """The database's driver: Debian's, or where that cannot be had one that is built."""
    if _own_driver().is_dir():
        return
    # One that leads nowhere any more.
    _own_driver().unlink(missing_ok=True)
    if has_driver():
        _own_driver().symlink_to(DEBIAN_PACKAGES / "MySQLdb", target_is_directory=True)
    else:
        _install("driver", "Building the database's driver (driver.txt, pinned and hashed)")


def _install(name: str, what: str) -> None:
    """Install a lock file into the virtual environment, once for each of its contents."""
    locked = ROOT / "requirements" / f"{name}.txt"
    wanted = digest([locked]) + sys.version
    stamp = VENV / f".{name}-installed"
    if is_current(stamp, wanted):
        return
    with step(what):
        install: list[str | Path] = [PYTHON, "-m", "pip", "install", *_QUIET_PIP]
        run([*install, "--require-hashes", "-r", locked], why=f"installing {locked.name}")
        stamp.write_text(wanted)


def _node() -> None:
    """Node of the machine's own if it is new enough, else the one that a Python package brings."""
    if not has_node():
        _install("node", "Installing Node (node.txt, pinned and hashed)")


def node_environment() -> dict[str, str]:
    """The environment in which `node` and `npm` are found."""
    if has_node():
        return dict(os.environ)
    return {**os.environ, "PATH": f"{VENV / 'bin'}{os.pathsep}{os.environ.get('PATH', '')}"}


def _node_modules() -> None:
    lock = WEB / "package-lock.json"
    wanted = digest([lock])
    stamp = WEB / "node_modules" / ".limpet-installed"
    if is_current(stamp, wanted):
        return
    with step("Installing the page's packages (npm ci)"):
        # Debian ships one npm and Node's own archive another; both understand these.
        command = ["npm", "ci", "--no-audit", "--no-fund", "--loglevel=error"]
        run(command, why="npm ci", cwd=WEB, env=node_environment())
        stamp.write_text(wanted)


def build_page() -> None:
    """Build web/dist when anything it is made of has changed."""
    sources = [path for path in (WEB / "src").rglob("*") if path.is_file()]
    sources += [path for path in (WEB / "public").rglob("*") if path.is_file()]
    # The page shows them.
    sources += sorted((ROOT / "docs" / "formats").glob("*.md"))
    # It says the core's lines by itself where there is no signal.
    sources += sorted((ROOT / "src" / "limpet" / "notices" / "en").glob("*.ftl"))
    tops = ("index.html", "package-lock.json", "vite.config.ts", "fluent.ts", "tsconfig.json")
    sources += [WEB / name for name in tops]
    wanted = digest(sources)
    stamp = RUN / "page-built"
    if is_current(stamp, wanted) and (DIST / "index.html").is_file():
        return
    with step("Building the page"):
        environment = {**node_environment(), "NODE_ENV": "production"}
        run(["npm", "run", "--silent", "build"], why="building the page", cwd=WEB, env=environment)
        stamp.write_text(wanted)
