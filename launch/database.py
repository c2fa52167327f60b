"""A private MariaDB: its own data, socket and password under .run, on loopback, on a free port."""

from __future__ import annotations

import fcntl
import os
import secrets
import shutil
import signal
import socket
import subprocess
import tempfile
import time
from hashlib import sha256
from pathlib import Path
from typing import TextIO

from launch.say import Trouble, run, step

#: How long a server may take to answer after its start; crash recovery can be slow.
PATIENCE_S = 120.0

_USER = "limpet"


def free_port() -> int:
    """A port of 127.0.0.1 that nobody listens on."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def _which(name: str) -> str:
    found = shutil.which(name, path=os.environ.get("PATH", "") + ":/usr/sbin:/sbin")
    if found is None:
        raise Trouble(f"{name} is not installed; ./limpet start installs it")
    return found


def _alive(pid: int) -> bool:
    try:
        os.kill(pid, 0)
    except ProcessLookupError:
        return False
    except PermissionError:
        return True
    return "mariadbd" in Path(f"/proc/{pid}/cmdline").read_text(errors="replace")


def _greets(port: int) -> bool:
    """Whether a MariaDB on a port sends its greeting, which it does once its accounts are made."""
    try:
        with socket.create_connection(("127.0.0.1", port), timeout=2) as connection:
            # A packet of the handshake: three bytes of length, a number, then protocol version 10.
            return connection.recv(5)[4:] == bytes([10])
    except OSError:
        return False


class _PortTaken(Trouble):
    """Somebody else was quicker to listen where the server was to."""


#: So often another port is tried; that each is taken between the look and the start is no chance.
_MOST_PORTS = 5

_ON_DISK = ("--innodb-flush-log-at-trx-commit=1",)
_IN_MEMORY = (
    "--innodb-flush-log-at-trx-commit=0",
    "--innodb-flush-method=nosync",
    "--innodb-doublewrite=0",
)


class Database:
    """One MariaDB server under one folder."""

    def __init__(self, home: Path, *, durable: bool = True) -> None:
        self.home = home
        #: Whether what was acknowledged is on disk; what tests write need not outlive the machine.
        self._durable = durable
        self.port = 0
        self._used: TextIO | None = None
        self._data = home / "data"
        # Its own: a server that starts takes away what it finds of temporary tables, also another's in use.
        self._temporary = home / "tmp"
        self._pid_file = home / "mariadbd.pid"
        self._port_file = home / "port"
        self._log = home / "mariadbd.log"
        self._password_file = home / "password"
        # A socket's path may have 107 characters at most, and a checkout may lie deep.
        self._socket = home / "mariadbd.sock"
        if len(str(self._socket)) > 100:
            name = sha256(str(home).encode()).hexdigest()[:16]
            self._socket = Path(tempfile.gettempdir()) / f"limpet-{name}.sock"

    @property
    def password(self) -> str:
        """The random password of this server, made at its first start."""
        return self._password_file.read_text().strip()

    def environment(self) -> dict[str, str]:
        """What Django needs to reach this server."""
        return {
            "LIMPET_DB_PORT": str(self.port),
            "LIMPET_DB_PASSWORD": self.password,
            "LIMPET_DB_FOLDER": str(self.home),
        }

    def start(self) -> None:
        """Start the server, or join one that runs already: of another command, or left by a killed one."""
        self.home.mkdir(parents=True, exist_ok=True, mode=0o700)
        # One at a time finds out whether it runs and starts it.
        with (self.home / "starting.lock").open("a") as starting:
            fcntl.flock(starting, fcntl.LOCK_EX)
            self._start()
            self._used = (self.home / "users.lock").open("a")
            fcntl.flock(self._used, fcntl.LOCK_SH)

    def leave(self) -> None:
        """Stop the server if nobody else uses it: the last one out turns off the light."""
        with (self.home / "starting.lock").open("a") as starting:
            fcntl.flock(starting, fcntl.LOCK_EX)
            if self._used is not None:
                try:
                    fcntl.flock(self._used, fcntl.LOCK_EX | fcntl.LOCK_NB)
                except BlockingIOError:
                    return
                finally:
                    self._used.close()
                    self._used = None
            self.stop()

    @property
    def is_alive(self) -> bool:
        """Whether the server's process is there."""
        return self._pid() is not None

    def revive(self) -> None:
        """Start the server again where it was, after it died: same data, same port."""
        with (self.home / "starting.lock").open("a") as starting:
            fcntl.flock(starting, fcntl.LOCK_EX)
            if not self.is_alive:
                self._launch()

    def _start(self) -> None:
        if not self._password_file.is_file():
            self._password_file.touch(mode=0o600)
            self._password_file.write_text(secrets.token_urlsafe(24))
        if self._take_over():
            return
        if not (self._data / "mysql").is_dir():
            self._install()
        # Where it was, if it can be: a server that runs already knows it by its port.
        self.port = self._last_port() or free_port()
        for tried in range(_MOST_PORTS):
            try:
                self._launch()
                return
            except _PortTaken:
                if tried == _MOST_PORTS - 1:
                    raise
                self.port = free_port()

    def stop(self) -> None:
        """Stop the server cleanly; its data stays."""
        pid = self._pid()
        if pid is None:
            return
        os.kill(pid, signal.SIGTERM)
        deadline = time.monotonic() + PATIENCE_S
        while _alive(pid) and time.monotonic() < deadline:
            time.sleep(0.05)
        if _alive(pid):
            raise Trouble(f"MariaDB (process {pid}) does not stop; see {self._log}")

    def _pid(self) -> int | None:
        if not self._pid_file.is_file():
            return None
        text = self._pid_file.read_text().strip()
        pid = int(text) if text.isdigit() else None
        return pid if pid is not None and _alive(pid) else None

    def _last_port(self) -> int | None:
        text = self._port_file.read_text().strip() if self._port_file.is_file() else ""
        if not text.isdigit():
            return None
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind(("127.0.0.1", int(text)))
            except OSError:
                return None
        return int(text)

    def _take_over(self) -> bool:
        """Whether a server of ours still runs: then it is used again."""
        pid = self._pid()
        if pid is None or not self._port_file.is_file():
            return False
        arguments = Path(f"/proc/{pid}/cmdline").read_bytes().decode(errors="replace").split("\0")
        if f"--datadir={self._data}" not in arguments:
            return False
        self.port = int(self._port_file.read_text())
        self._wait(None)
        return True

    def _install(self) -> None:
        with step("Making a private MariaDB"):
            shutil.rmtree(self._data, ignore_errors=True)
            self._data.mkdir(mode=0o700)
            self._temporary.mkdir(mode=0o700, exist_ok=True)
            command = [
                _which("mariadb-install-db"),
                "--no-defaults",
                f"--datadir={self._data}",
                "--auth-root-authentication-method=normal",
                "--skip-test-db",
                "--skip-name-resolve",
            ]
            if os.geteuid() == 0:
                command.append("--user=root")
            try:
                known = {**os.environ, "TMPDIR": str(self._temporary)}
                run(command, why="making the database", env=known)
            except Trouble:
                # A half-made data directory would be taken for a whole one next time.
                shutil.rmtree(self._data, ignore_errors=True)
                raise

    def _launch(self) -> None:
        # A database of before has none.
        self._temporary.mkdir(mode=0o700, exist_ok=True)
        init = self.home / "init.sql"
        init.touch(mode=0o600)
        init.write_text(self._accounts())
        command = [
            _which("mariadbd"),
            "--no-defaults",
            f"--datadir={self._data}",
            f"--tmpdir={self._temporary}",
            f"--socket={self._socket}",
            f"--pid-file={self._pid_file}",
            f"--init-file={init}",
            f"--port={self.port}",
            "--bind-address=127.0.0.1",
            "--skip-name-resolve",
            "--character-set-server=utf8mb4",
            "--collation-server=utf8mb4_unicode_ci",
            "--sql-mode=TRADITIONAL",
            "--max-allowed-packet=256M",
            # One for each thread of each server (`server.settings.THREADS`), and some to look with.
            "--max-connections=600",
            "--innodb-buffer-pool-size=128M",
            "--innodb-log-file-size=64M",
            *(_ON_DISK if self._durable else _IN_MEMORY),
        ]
        if os.geteuid() == 0:
            command.append("--user=root")
        self._port_file.write_text(str(self.port))
        self._pid_file.unlink(missing_ok=True)
        # What it says now is told apart from what it said before by its place.
        said = self._log.stat().st_size if self._log.is_file() else 0
        with self._log.open("ab") as log:
            server = subprocess.Popen(
                command, stdin=subprocess.DEVNULL, stdout=log, stderr=log, start_new_session=True
            )
        self._wait(server, said)

    def _accounts(self) -> str:
        secret = self.password
        hosts = ("127.0.0.1", "localhost")
        lines = ["CREATE DATABASE IF NOT EXISTS limpet CHARACTER SET utf8mb4;"]
        for host in hosts:
            lines += [
                f"CREATE USER IF NOT EXISTS '{_USER}'@'{host}' IDENTIFIED BY '{secret}';",
                f"GRANT ALL ON limpet.* TO '{_USER}'@'{host}';",
                # One for each process that tests run in: limpet_test, limpet_test_gw0, …
                f"GRANT ALL ON `limpet\\_test%`.* TO '{_USER}'@'{host}';",
                f"GRANT ALL ON limpet_bench.* TO '{_USER}'@'{host}';",
            ]
        lines.append(f"ALTER USER 'root'@'localhost' IDENTIFIED BY '{secret}';")
        # The installation also makes a root for 127.0.0.1, ::1 and the host's name, all without
        # a password, and perhaps an anonymous user.
        lines.append(
            "DELETE FROM mysql.global_priv WHERE (User = 'root' AND Host <> 'localhost') OR User = '';"
        )
        lines.append("FLUSH PRIVILEGES;")
        return "\n".join(lines) + "\n"

    def _wait(self, server: subprocess.Popen[bytes] | None, said: int = 0) -> None:
        deadline = time.monotonic() + PATIENCE_S
        while time.monotonic() < deadline:
            if server is not None and server.poll() is not None:
                lines = self._log.read_bytes()[said:].decode(errors="replace").splitlines()
                tail = "\n".join(lines[-15:])
                trouble = _PortTaken if "Address already in use" in tail else Trouble
                raise trouble(f"MariaDB did not start; the end of {self._log}:\n{tail}")
            # Another's MariaDB may greet on the port that ours is just being refused.
            if (server is None or self._pid() == server.pid) and _greets(self.port):
                return
            time.sleep(0.05)
        raise Trouble(f"MariaDB does not answer; see {self._log}")
