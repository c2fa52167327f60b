"""What Debian must provide, found by looking for the thing itself, not for its package."""

from __future__ import annotations

import importlib.util
import os
import shutil
import subprocess
import sysconfig
from collections.abc import Callable
from pathlib import Path

from launch.say import Trouble, run, say, step


def _program(*names: str) -> Callable[[], bool]:
    places = os.environ.get("PATH", "") + ":/usr/sbin:/sbin"
    return lambda: any(shutil.which(name, path=places) for name in names)


def _python_header() -> bool:
    return (Path(sysconfig.get_paths()["include"]) / "Python.h").is_file()


def _venv() -> bool:
    return all(importlib.util.find_spec(name) is not None for name in ("venv", "ensurepip"))


#: (Debian package, whether what it brings is there already)
NEEDED: list[tuple[str, Callable[[], bool]]] = [
    ("mariadb-server-core", _program("mariadbd")),
    # mariadb-install-db of the server's package calls this one of the client's.
    ("mariadb-client-core", _program("my_print_defaults")),
    ("python3-venv", _venv),
]
#: The database's driver as Debian ships it, compiled; the folder of Debian's Python packages.
DRIVER, DEBIAN_PACKAGES = "python3-mysqldb", Path("/usr/lib/python3/dist-packages")
#: What building the driver takes, where Debian's cannot be had.
TO_BUILD_DRIVER: list[tuple[str, Callable[[], bool]]] = [
    ("libmariadb-dev", _program("mariadb_config")),
    ("pkg-config", _program("pkg-config")),
    ("gcc", _program("gcc", "cc")),
    ("python3-dev", _python_header),
]
#: What writes and loads a dump; only backups ask for it.
CLIENT: list[tuple[str, Callable[[], bool]]] = [("mariadb-client", _program("mariadb-dump"))]
FOR_TESTS: list[tuple[str, Callable[[], bool]]] = [
    *CLIENT,
    # The browser without its windows does the same for half of the work; `tests.chromium` takes either.
    ("chromium-headless-shell", _program("chromium-headless-shell", "chromium")),
    # With it a test has the browser trust the authority of this installation.
    ("libnss3-tools", _program("certutil")),
]


#: What tests take less time with: (package, whether it is there, what happens without it).
FASTER: list[tuple[str, Callable[[], bool], str]] = [
    (
        "chromium-headless-shell",
        _program("chromium-headless-shell"),
        "tests take chromium, and longer",
    ),
]


def has_driver() -> bool:
    """Whether Debian's driver is there, compiled for the Python that runs this."""
    compiled = sysconfig.get_config_var("EXT_SUFFIX")
    return (DEBIAN_PACKAGES / "MySQLdb" / f"_mysql{compiled}").is_file()


def ensure_client() -> None:
    """Install what backups take, or say exactly which line would."""
    _ensure(CLIENT)


def ensure_packages(*, tests: bool, has_own_driver: bool = False) -> None:
    """Install what is missing, or say exactly which line would.

    Only the database's programs are installed, not Debian's database service: Limpet runs its own.

    Parameters
    ----------
    has_own_driver : the virtual environment holds a driver of the database already
    """
    driver = [] if has_own_driver else [(DRIVER, has_driver)]
    wanted = NEEDED + (FOR_TESTS if tests else [])
    _ensure(wanted + driver if os.geteuid() != 0 else wanted)
    if driver and not has_driver():
        _try_to_install(DRIVER, "the driver is built instead")
        if not has_driver():
            _ensure(TO_BUILD_DRIVER)
    if tests and os.geteuid() == 0:
        for package, is_there, otherwise in FASTER:
            if not is_there():
                _try_to_install(package, otherwise)


def _try_to_install(package: str, otherwise: str) -> None:
    """Install a package that is not needed; where that cannot be done it is said."""
    environment = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    with step(f"Installing from Debian: {package}"):
        for command in (
            ["apt-get", "update"],
            ["apt-get", "install", "-y", "--no-install-recommends", package],
        ):
            done = subprocess.run(command, capture_output=True, env=environment, check=False)
            if done.returncode != 0:
                say(f"  {package} cannot be had: {otherwise}")
                return


def _ensure(wanted: list[tuple[str, Callable[[], bool]]]) -> None:
    missing = [package for package, is_there in wanted if not is_there()]
    if missing:
        line = f"apt-get update && apt-get install -y --no-install-recommends {' '.join(missing)}"
        if os.geteuid() != 0:
            raise Trouble(
                f"missing Debian packages. As root, run this and start again:\n\n  {line}\n"
            )
        environment = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
        with step(f"Installing from Debian: {', '.join(missing)}"):
            run(["apt-get", "update"], why="refreshing Debian's package lists", env=environment)
            install = ["apt-get", "install", "-y", "--no-install-recommends", *missing]
            run(install, why="installing Debian packages", env=environment)


#: The oldest Node that builds the page; Debian 12 has 18.
LEAST_NODE = 20


def has_node() -> bool:
    """Whether the machine's own Node and npm can build the page."""
    if shutil.which("npm") is None or shutil.which("node") is None:
        return False
    found = subprocess.run(["node", "--version"], capture_output=True, text=True, check=False)
    major = found.stdout.strip().lstrip("v").split(".")[0]
    return major.isdigit() and int(major) >= LEAST_NODE
