"""The commands of ./limpet."""

from __future__ import annotations

import argparse
import fcntl
import os
import secrets
import signal
import socket
import subprocess
import sys
from collections.abc import Callable, Iterator, Sequence
from contextlib import ExitStack, contextmanager
from hashlib import sha256
from pathlib import Path
from types import FrameType

from launch import core
from launch.database import Database
from launch.environment import node_environment, prepare
from launch.keeper import Child, Keeper, end_with_parent
from launch.machine import ensure_client
from launch.network import lan_environment, own_address
from launch.paths import PYTHON, ROOT, RUN, VENV, WEB
from launch.say import Trouble, say, step
from launch.sockets import FIRST_PORT, page_socket, two_sockets
from launch.watch import Watch

Command = Callable[[argparse.Namespace, list[str]], int]


def main(arguments: Sequence[str]) -> int:
    """Run one command; returns its exit code."""
    parser = _parser()
    options, rest = parser.parse_known_args(arguments)
    if rest and options.command not in (
        *core.COMMANDS,
        "test",
        "bench",
        "backup",
        "restore",
        "manage",
        "shots",
    ):
        parser.error(
            f"unknown: {' '.join(rest)}; ./limpet {options.command} --help lists what there is"
        )
    try:
        return int(options.run(options, rest))
    except Trouble as trouble:
        print(f"limpet: {trouble}", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        return 130


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="./limpet", description="Range tests of light electric vehicles."
    )
    commands = parser.add_subparsers(dest="command", required=True, metavar="COMMAND")
    start = commands.add_parser("start", help="set up what is missing, then serve the application")
    start.add_argument("--port", type=int, help=f"port on 127.0.0.1 (default {FIRST_PORT} or next)")
    start.add_argument("--no-demo", action="store_true", help="do not load the made-up island")
    start.add_argument(
        "--lan", action="store_true", help="serve phones on the local network too, over TLS"
    )
    start.add_argument("--address", metavar="IP", help="this machine's address there")
    start.add_argument(
        "--lan-sign-up", action="store_true", help="let accounts be made from the network as well"
    )
    start.add_argument(
        "--workers",
        type=_workers,
        help=f"processes that serve (default: one a core, {MOST_BY_ITSELF} at most)",
    )
    start.set_defaults(run=_start)
    passing: tuple[tuple[str, Command, str], ...] = (
        ("test", _test, "run all tests; further arguments go to pytest"),
        *((name, _core, words) for name, words in core.COMMANDS.items()),
        ("bench", _bench, "time what must be fast, against a yardstick in the same run"),
        (
            "backup",
            _backup,
            "all that this Limpet keeps in one file, tried: backup [--to FOLDER] [--key FILE]",
        ),
        (
            "restore",
            _backup,
            "a backup onto a Limpet that holds nothing yet: restore FILE [--key FILE]",
        ),
        ("manage", _manage, "Django's own commands, with the database running"),
    )
    for name, run, words in passing:
        commands.add_parser(name, help=words, add_help=False).set_defaults(run=run)
    plain: tuple[tuple[str, Command, str], ...] = (
        ("check", _check, "style, types, dependency direction, migrations, API types"),
        (
            "shots",
            _shots,
            "take docs/screenshots from the demo; --check: say which views have moved",
        ),
        ("types", _types, "write what the page reads of the server and the core"),
    )
    for name, run, words in plain:
        commands.add_parser(name, help=words).set_defaults(run=run)
    return parser


#: Processes that serve: by itself, and when asked. Each holds the libraries of arithmetic in memory.
MOST_BY_ITSELF, MOST_WORKERS = 4, 64


def _workers(text: str) -> int:
    """A number of processes, as it is typed."""
    if not text.isdigit() or not 1 <= int(text) <= MOST_WORKERS:
        raise argparse.ArgumentTypeError(f"{text!r} is no number from 1 to {MOST_WORKERS}")
    return int(text)


def _secret_key() -> str:
    file = RUN / "secret-key"
    if not file.is_file():
        RUN.mkdir(exist_ok=True)
        file.touch(mode=0o600)
        file.write_text(secrets.token_urlsafe(48))
    return file.read_text().strip()


def environment(database: Database | None = None) -> dict[str, str]:
    """The environment of every Python process of ours."""
    found = {
        **{name: value for name, value in os.environ.items() if name != "PYTHONDONTWRITEBYTECODE"},
        "PYTHONPATH": os.pathsep.join([str(ROOT / "src"), str(ROOT)]),
        "DJANGO_SETTINGS_MODULE": "server.settings",
        "LIMPET_SECRET_KEY": _secret_key(),
        "LIMPET_COOKIE_SUFFIX": "_" + sha256(str(ROOT).encode()).hexdigest()[:8],
        "PYBAMM_DISABLE_TELEMETRY": "true",
        **core.KEPT_MEMORY,
    }
    if database is not None:
        found |= database.environment()
    return found


@contextmanager
def _only_one(name: str, complaint: str) -> Iterator[None]:
    """Hold a lock of this checkout; the kernel lets go of it when a process is killed."""
    RUN.mkdir(exist_ok=True)
    with (RUN / f"{name}.lock").open("a+") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError as cause:
            lock.seek(0)
            raise Trouble(f"{complaint} {lock.read().strip()}".strip()) from cause
        lock.truncate(0)
        yield


@contextmanager
def running(name: str, *, quiet: bool = False) -> Iterator[Database]:
    """A database of this checkout, started or joined; at the end stopped unless others use it.

    Riders' rows are in `db`; in all others is what a command makes for itself.
    """
    database = Database(RUN / name, durable=name == "db")
    if quiet:
        database.start()
    else:
        with step("Starting MariaDB"):
            database.start()
    try:
        yield database
    finally:
        database.leave()


def _start(options: argparse.Namespace, rest: list[str]) -> int:
    if options.address is not None and not options.lan:
        raise Trouble("--address goes with --lan")
    lan = own_address(options.address) if options.lan else None
    # The ports are ours from here on: what takes minutes comes after.
    with ExitStack() as held:
        page = held.enter_context(page_socket(options.port))
        beside = [held.enter_context(one) for one in two_sockets(lan)] if lan is not None else []
        with _only_one("start", "Limpet is running from this checkout already:"):
            prepare(tests=False)
            with running("db") as database:
                code = _serve(options, database, lan, page, beside)
            say("Stopped.")
            return code


def _serve(
    options: argparse.Namespace,
    database: Database,
    lan: str | None,
    page: socket.socket,
    beside: Sequence[socket.socket],
) -> int:
    """Keep the server and the database running until somebody stops them; the exit code."""
    (RUN / "start.lock").write_text(f"http://127.0.0.1:{page.getsockname()[1]}/")
    served = "server.serve" if options.no_demo else "demo.serve"
    command = [str(PYTHON), "-m", served]
    workers = options.workers or min(os.cpu_count() or 1, MOST_BY_ITSELF)
    called, calls = os.pipe()
    os.set_blocking(calls, False)
    known = environment(database) | {
        "LIMPET_WORKERS": str(workers),
        "LIMPET_COMPUTES_RESULTS": "0",
        "LIMPET_TURNS": str(RUN / "turns"),
        "LIMPET_CALLS": str(calls),
    }
    if options.no_demo:
        known["LIMPET_WITH_DEMO"] = "0"
    sockets = ["--socket", str(page.fileno())]
    if lan is not None:
        sockets += ["--lan-sockets", *(str(one.fileno()) for one in beside)]
        port = beside[0].getsockname()[1]
        known |= lan_environment(lan, port, RUN / "lan", sign_up=options.lan_sign_up)
    handed = [calls, *(one.fileno() for one in (page, *beside))]
    children = [
        Child(
            "the server" if number == 0 else f"server {number + 1}",
            [*command, "--prepared", *sockets, *(["--quiet"] if number else [])],
            known,
            handed,
        )
        for number in range(workers)
    ]
    results = [str(PYTHON), "-m", "server.manage", "compute_results", "--calls", str(called)]
    children.append(Child("the process for results", results, known, [called, calls]))
    keeper = Keeper(children)

    # Once, before anybody is served: two of them would do it twice at the same time.
    preparing = subprocess.Popen(
        [*command, "--prepare-only"], cwd=ROOT, env=known, preexec_fn=end_with_parent
    )

    def stop(number: int, frame: FrameType | None) -> None:
        preparing.terminate()
        keeper.stop()

    # Ctrl-C reaches the server too (same terminal); wait for it, then stop the database.
    signal.signal(signal.SIGINT, stop)
    signal.signal(signal.SIGTERM, stop)
    watch = Watch(database)
    watch.start()
    try:
        return preparing.wait() or keeper.run()
    finally:
        watch.stop()


#: How many threads the libraries of arithmetic and tables take.
_THREADS = ("OPENBLAS_NUM_THREADS", "OMP_NUM_THREADS", "POLARS_MAX_THREADS")


def _test(options: argparse.Namespace, rest: list[str]) -> int:
    prepare(tests=True)
    if not rest:
        # Arguments are pytest's; without any, the page's own tests run as well.
        page = _npm("test")
        if page != 0:
            return page
    with (
        _only_one("test", "Tests run in this checkout already; wait for them."),
        running("test-db") as db,
    ):
        # The whole suite in as many processes as there are processors, each test file in one of them, in
        # the order of tests/conftest.py: what takes long first, so that all are done at about one time.
        whole = ["-n", str(os.cpu_count() or 1), "--dist", "loadfile", "--no-loadscope-reorder"]
        whole = [] if rest else whole
        command = [str(PYTHON), "-m", "pytest", *whole, *rest]
        # A process a processor: threads within them would only wait for each other, at twice the work.
        alone = dict.fromkeys(_THREADS, "1")
        found = environment(db) | alone
        return subprocess.run(command, cwd=ROOT, env=found, check=False).returncode


def _core(options: argparse.Namespace, rest: list[str]) -> int:
    # The script itself answers these once there is a virtual environment.
    prepare(tests=False)
    core.run([options.command, *rest])
    return 1


def _bench(options: argparse.Namespace, rest: list[str]) -> int:
    prepare(tests=True)
    with running("bench-db") as database:
        command = [str(PYTHON), "-m", "tests.bench", *rest]
        return subprocess.run(command, cwd=ROOT, env=environment(database), check=False).returncode


def _manage(options: argparse.Namespace, rest: list[str]) -> int:
    prepare(tests=False)
    with running("db", quiet=True) as database:
        command = [str(PYTHON), "-m", "server.manage", *rest]
        return subprocess.run(command, cwd=ROOT, env=environment(database), check=False).returncode


def _backup(options: argparse.Namespace, rest: list[str]) -> int:
    """Make or restore a backup; Debian's client is installed the first time, as nothing else asks for it."""
    prepare(tests=False)
    ensure_client()
    with running("db", quiet=True) as database:
        # A backup may be asked for before this version has ever served, a restore by a Limpet without a table.
        first = [] if options.command == "restore" else [["migrate", "--verbosity=0"]]
        for words in (*first, [options.command, *rest, "--run", str(RUN)]):
            command = [str(PYTHON), "-m", "server.manage", *words]
            code = subprocess.run(
                command, cwd=ROOT, env=environment(database), check=False
            ).returncode
            if code != 0:
                return code
    return 0


def _shots(options: argparse.Namespace, rest: list[str]) -> int:
    prepare(tests=True)
    with running("shots-db") as database:
        command = [str(PYTHON), "-m", "tools.take_shots", *rest]
        return subprocess.run(command, cwd=ROOT, env=environment(database), check=False).returncode


def _types(options: argparse.Namespace, rest: list[str]) -> int:
    prepare(tests=True)
    for tool in ("tools.write_openapi", "tools.write_core_json", "tools.write_formats"):
        command = [str(PYTHON), "-m", tool]
        code = subprocess.run(command, cwd=ROOT, env=environment(), check=False).returncode
        if code != 0:
            return code
    return _npm("types")


def _npm(script: str) -> int:
    """One of the page's own scripts; returns its exit code."""
    command = ["npm", "run", "--silent", script]
    return subprocess.run(command, cwd=WEB, env=node_environment(), check=False).returncode


def _check(options: argparse.Namespace, rest: list[str]) -> int:
    """Every check, all of them even when one fails."""
    prepare(tests=True)
    tool = VENV / "bin"
    sources = ["src", "server", "standins", "demo", "launch", "tools", "tests", "limpet"]
    plain: list[tuple[str, list[str], Path]] = [
        ("ruff", [str(tool / "ruff"), "check", *sources], ROOT),
        ("ruff format", [str(tool / "ruff"), "format", "--check", *sources], ROOT),
        ("mypy", [str(tool / "mypy"), "src/limpet", "server", "launch", "standins", "demo"], ROOT),
        ("dependency direction", [str(tool / "lint-imports")], ROOT),
        ("API types are up to date", [str(PYTHON), "-m", "tools.write_openapi", "--check"], ROOT),
        (
            "the page knows the core's fields",
            [str(PYTHON), "-m", "tools.write_core_json", "--check"],
            ROOT,
        ),
        (
            "the formats' schemas are up to date",
            [str(PYTHON), "-m", "tools.write_formats", "--check"],
            ROOT,
        ),
        ("biome and tsc", ["npm", "run", "--silent", "check"], WEB),
        (
            "the page's rooms take each other in one way only",
            ["npm", "run", "--silent", "test", "--", "src/walls.test.ts"],
            WEB,
        ),
    ]
    failed = []
    with running("test-db", quiet=True) as database:
        migrations = [str(PYTHON), "-m", "server.manage", "makemigrations", "--check", "--dry-run"]
        for name, command, folder in [*plain, ("no missing migrations", migrations, ROOT)]:
            done = subprocess.run(
                command,
                cwd=folder,
                env=environment(database) | {"PATH": node_environment()["PATH"]},
                stdin=subprocess.DEVNULL,
                stdout=subprocess.PIPE,
                stderr=subprocess.STDOUT,
                text=True,
                check=False,
            )
            say(f"{'ok   ' if done.returncode == 0 else 'FAULT'}  {name}")
            if done.returncode != 0:
                failed.append(name)
                say(done.stdout)
    if failed:
        say(f"{len(failed)} of {len(plain) + 1} checks found faults: {', '.join(failed)}")
    return 1 if failed else 0
