"""Bring the database up to date, load the demo if it is there, and serve.

Alone all in one process, results too; with `--prepared` beside others like it, after one of them prepared
(`--prepare-only`) and with results in a process of their own.
"""

from __future__ import annotations

import argparse
import asyncio
import os
import warnings
from collections.abc import Iterator
from contextlib import contextmanager
from socket import socket
from typing import Any

import django
import uvicorn
from django.conf import settings
from django.core.management import call_command

from server.patience import Patient

#: Requests at once; more are answered with 503 by uvicorn itself.
MOST_AT_ONCE = 300


class _Announced(uvicorn.Server):
    """Says where it is once it listens, not before."""

    def __init__(
        self, application: Any, listening: socket, words: str, works: int | None = None, **more: Any
    ) -> None:
        super().__init__(_config(application, **more))
        self._listening = listening
        self._words = words
        self._works = works

    async def run_on(self) -> None:
        """Serve on the socket that was handed over."""
        await self.serve([self._listening])

    async def startup(self, sockets: list[socket] | None = None) -> None:
        await super().startup(sockets)
        if self._words:
            print(self._words, flush=True)
        if self._works is not None:
            os.write(self._works, b"1")
            os.close(self._works)


class _Beside(_Announced):
    """A server beside the first one, which alone hears the signals and ends all of them."""

    @contextmanager
    def capture_signals(self) -> Iterator[None]:
        yield


async def _all(first: _Announced, beside: list[_Beside]) -> None:
    """Run servers until the first one ends, and say what failed of the others."""
    others = [asyncio.create_task(server.run_on()) for server in beside]
    await first.run_on()
    for server in beside:
        server.should_exit = True
    await asyncio.gather(*others)


def _config(application: Any, **more: Any) -> uvicorn.Config:
    return uvicorn.Config(
        application,
        log_level="warning",
        lifespan="off",
        timeout_graceful_shutdown=5,
        limit_concurrency=MOST_AT_ONCE,
        http=Patient,
        **more,
    )


def _on_the_network(address: str, over_tls: socket, plain: socket, *, tells: bool) -> list[_Beside]:
    """Limpet over TLS on an address of the local network, and the doorstep where a phone gets its trust."""
    from server.lan.authority import certificates
    from server.lan.doorstep import doorstep

    files = certificates(settings.LAN_FOLDER, address)
    words = _of_the_network() if tells else ""
    tls: dict[str, Any] = {"ssl_certfile": str(files.certificate), "ssl_keyfile": str(files.key)}
    # The address of a peer is its own: nobody on the network speaks for another.
    page = doorstep(files, f"{settings.LAN_ORIGIN}/")
    return [
        _Beside("server.asgi:application", over_tls, words, proxy_headers=False, **tls),
        _Beside(page, plain, "", proxy_headers=False),
    ]


def _of_the_network() -> str:
    """Where it is reached there, and how a phone begins."""
    from server.lan.square import square_for_terminal

    return (
        f"On the network: {settings.LAN_ORIGIN}/\n"
        f"A phone begins at {settings.LAN_DOORSTEP} (Menu, Use it on your phone):\n"
        f"{square_for_terminal(settings.LAN_DOORSTEP)}"
    )


def _prepare() -> None:
    """Whatever is done once, before anybody is served."""
    print("· Bringing the database up to date …", flush=True)
    call_command("migrate", interactive=False, verbosity=0)
    if settings.WITH_DEMO:
        print("· Loading the demo, the island of Skerrow …", flush=True)
        call_command("load_demo")
    # Models can be imported only now.
    from server.lan.authority import certificates
    from server.removed import purge_all

    purge_all()
    if settings.LAN_ADDRESS:
        replaced = certificates(settings.LAN_FOLDER, settings.LAN_ADDRESS).replaced
        if replaced is not None:
            print(
                "The authority was made anew: an earlier Limpet’s could have signed for any site. Remove "
                f"“{replaced}” from the trusted certificates of each phone (settings, security), then "
                "take the new one as below.",
                flush=True,
            )


def main() -> None:
    """Run the server until it is told to stop."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--socket", type=int, help="a descriptor that listens")
    parser.add_argument("--prepare-only", action="store_true", help="serve nothing yet")
    parser.add_argument("--prepared", action="store_true", help="another process has prepared")
    parser.add_argument("--quiet", action="store_true", help="another process says where it is")
    parser.add_argument(
        "--lan-sockets", type=int, nargs=2, help="on LIMPET_LAN: for TLS, and the plain page"
    )
    parser.add_argument("--works", type=int, help="where to say that it serves")
    options = parser.parse_args()
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")
    django.setup()
    if not options.prepared:
        _prepare()
    if options.prepare_only:
        return
    # The page's files are read whole by a synchronous middleware; they are small and compressed.
    warnings.filterwarnings("ignore", message="StreamingHttpResponse must consume synchronous")
    # Models can be imported only now.
    from server.results.worker import Worker

    results = Worker()
    if settings.COMPUTES_RESULTS:
        results.start()
    page = socket(fileno=options.socket)
    host, port = page.getsockname()[:2]
    first = _Announced(
        "server.asgi:application",
        page,
        "" if options.quiet else f"\nLimpet is at http://{host}:{port}/   (Ctrl-C stops it)\n",
        options.works,
    )
    beside = (
        _on_the_network(
            settings.LAN_ADDRESS,
            *(socket(fileno=one) for one in options.lan_sockets),
            tells=not options.quiet,
        )
        if options.lan_sockets
        else []
    )
    asyncio.run(_all(first, beside))
    results.stop()
    if results.is_alive():
        results.join(timeout=5)


if __name__ == "__main__":
    main()
