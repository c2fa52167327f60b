"""A whole Limpet of a bench's own, from a copy of this checkout, and who calls it."""

from __future__ import annotations

import json
import os
import re
import signal
import subprocess
import sys
import threading
import time
from contextlib import suppress
from http.cookiejar import CookieJar
from pathlib import Path
from typing import Any
from urllib.error import HTTPError, URLError
from urllib.request import HTTPCookieProcessor, Request, build_opener
from uuid import uuid4

from tests.serving import copy_of_checkout

PASSWORD = "a-long-enough-password"
#: How long one write is tried before the house is called broken [s].
PATIENCE_S = 300.0


class House:
    """A Limpet from a copy of the checkout, started again whenever its launcher is gone."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.address = ""
        self.launcher: subprocess.Popen[str] | None = None
        copy_of_checkout(folder)

    def up(self) -> None:
        """Start it, as its rider would after it has gone; returns when it answers."""
        begun = time.monotonic()
        while True:
            self.launcher = subprocess.Popen(
                [sys.executable, self.folder / "limpet", "start", "--no-demo"],
                stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True, start_new_session=True,
            )  # fmt: skip
            assert self.launcher.stdout is not None
            said = []
            for line in self.launcher.stdout:
                said.append(line)
                if found := re.search(r"Limpet is at (\S+)/", line):
                    self.address = found.group(1)
                    threading.Thread(target=self._read, args=(self.launcher,), daemon=True).start()
                    return
            # A server that its launcher's death has not reached yet may hold the lock for a moment.
            if time.monotonic() - begun > PATIENCE_S:
                raise RuntimeError("".join(said))
            time.sleep(0.5)

    @staticmethod
    def _read(launcher: subprocess.Popen[str]) -> None:
        for _ in launcher.stdout or ():
            pass

    def below(self, pid: int) -> list[tuple[int, str]]:
        """Processes below one, with their words."""
        found = []
        for stat in Path("/proc").glob("[0-9]*/stat"):
            with suppress(OSError, ValueError, IndexError):
                parent = int(stat.read_text().rpartition(")")[2].split()[1])
                if parent == pid:
                    words = (stat.parent / "cmdline").read_text().replace("\0", " ")
                    found.append((int(stat.parent.name), words))
        return found

    def kill(self, kind: str) -> bool:
        """Kill one of its processes, or all of them; False where there was none such."""
        assert self.launcher is not None
        below = self.below(self.launcher.pid)
        servers = [pid for pid, words in below if "server.serve" in words]
        results = [pid for pid, words in below if "compute_results" in words]
        imports = [
            pid for one in servers for pid, words in self.below(one) if "spawn_main" in words
        ]
        file = self.folder / ".run" / "db" / "mariadbd.pid"
        database = [int(file.read_text())] if file.is_file() and file.read_text().strip() else []
        victims = {
            "server": servers[:1],
            "servers": servers,
            "results": results, "import": imports, "database": database, "launcher": [self.launcher.pid],
            "all": [self.launcher.pid, *servers, *results, *imports, *database],
        }[kind]  # fmt: skip
        for pid in victims:
            with suppress(ProcessLookupError):
                os.kill(pid, signal.SIGKILL)
        if kind in ("launcher", "all"):
            self.launcher.wait()
            self.up()
        return bool(victims)

    def all_of_it(self) -> list[int]:
        """Every process below the launcher, and itself."""
        assert self.launcher is not None
        found, at = [self.launcher.pid], 0
        while at < len(found):
            found += [pid for pid, _ in self.below(found[at])]
            at += 1
        return found

    def processor_s(self) -> float:
        """What all of it has taken of the processors."""
        ticks = 0
        for pid in self.all_of_it():
            with suppress(OSError):
                words = Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()
                ticks += int(words[11]) + int(words[12])
        return ticks / os.sysconf("SC_CLK_TCK")

    def memory_mb(self) -> float:
        """What all of it holds in memory; what processes share is counted once for each of them."""
        found = 0
        for pid in self.all_of_it():
            with suppress(OSError):
                status = Path(f"/proc/{pid}/status").read_text()
                # A process that has just ended holds none.
                held = re.search(r"VmRSS:\s+(\d+)", status)
                found += int(held.group(1)) if held else 0
        return found / 1024

    def down(self) -> None:
        """Stop it in an orderly way."""
        if self.launcher is not None and self.launcher.poll() is None:
            self.launcher.send_signal(signal.SIGTERM)
            self.launcher.wait(timeout=60)


class Caller:
    """An account of its own on a Limpet, with kit."""

    def __init__(self, house: House, name: str) -> None:
        self.house, self.name = house, name
        self.opener = build_opener(HTTPCookieProcessor(CookieJar()))
        self.csrf = ""
        self.kit: dict[str, str] = {}

    def again(self) -> Caller:
        """The same account in another thread, with a connection of its own."""
        found = Caller(self.house, self.name)
        found.opener, found.csrf, found.kit = self.opener, self.csrf, self.kit
        return found

    def once(self, method: str, path: str, body: Any = None, files: bytes | None = None) -> Any:
        """One request; raises where there was no answer or none that can be relied on."""
        data, kind = None, "application/json"
        if files is not None:
            edge = uuid4().hex
            kind = f"multipart/form-data; boundary={edge}"
            parts = [
                f'--{edge}\r\nContent-Disposition: form-data; name="id"\r\n\r\n{body}\r\n'.encode(),
                f'--{edge}\r\nContent-Disposition: form-data; name="files"; filename="r.zip"\r\n'
                "Content-Type: application/zip\r\n\r\n".encode()
                + files
                + b"\r\n",
                f"--{edge}--\r\n".encode(),
            ]
            data = b"".join(parts)
        elif body is not None:
            data = json.dumps(body).encode()
        request = Request(f"{self.house.address}/api{path}", data, method=method)
        request.add_header("Content-Type", kind)
        request.add_header("X-CSRFToken", self.csrf)
        with self.opener.open(request, timeout=30) as answer:
            text = answer.read()
            return json.loads(text) if text and "json" in answer.headers["Content-Type"] else text

    def sure(self, method: str, path: str, body: Any = None, files: bytes | None = None) -> Any:
        """Send until it is acknowledged, as a phone does."""
        begun = time.monotonic()
        while True:
            try:
                return self.once(method, path, body, files)
            except HTTPError as error:
                if error.code not in (429, 500, 502, 503):
                    raise RuntimeError(
                        f"{method} {path}: {error.code} {error.read()[:300]!r}"
                    ) from error
                error.close()
            except (URLError, OSError, ValueError):
                pass
            if time.monotonic() - begun > PATIENCE_S:
                raise RuntimeError(f"{method} {path} is not acknowledged in {PATIENCE_S:.0f} s")
            time.sleep(0.2)

    def enter(self) -> None:
        """Make an account with kit. Before anything is killed."""
        self.csrf = self.sure("GET", "/session")["csrf_token"]
        self.csrf = self.sure("POST", "/accounts", {"username": self.name, "password": PASSWORD})[
            "csrf_token"
        ]
        self.kit = {one: str(uuid4()) for one in ("vehicle_id", "pack_id")}
        self.sure(
            "PUT", f"/vehicles/{self.kit['vehicle_id']}", {"name": "Sandpiper", "kind": "bicycle"}
        )
        pack = {"name": "Eider", "chemistry": "nmc", "series": 13, "rated_ah": 14}
        self.sure("PUT", f"/packs/{self.kit['pack_id']}", pack)
