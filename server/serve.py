"""Bring the database up to date, load the demo if it is there, and serve."""

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

#: Requests at once; more are answered with 503 by uvicorn itself.
MOST_AT_ONCE = 300


class _Announced(uvicorn.Server):
    """Says where it is once it listens, not before."""

    def __init__(self, config: uvicorn.Config, words: str) -> None:
        super().__init__(config)
        self.words = words

    async def startup(self, sockets: list[socket] | None = None) -> None:
        await super().startup(sockets)
        print(self.words, flush=True)


class _Beside(_Announced):
    """A server beside the first one, which alone hears the signals and ends all of them."""

    @contextmanager
    def capture_signals(self) -> Iterator[None]:
        yield


async def _all(first: uvicorn.Server, beside: list[_Beside]) -> None:
    """Run servers until the first one ends, and say what failed of the others."""
    others = [asyncio.create_task(server.serve()) for server in beside]
    await first.serve()
    for server in beside:
        server.should_exit = True
    await asyncio.gather(*others)


def _config(application: Any, host: str, port: int, **more: Any) -> uvicorn.Config:
    return uvicorn.Config(
        application,
        host=host,
        port=port,
        log_level="warning",
        lifespan="off",
        timeout_graceful_shutdown=5,
        limit_concurrency=MOST_AT_ONCE,
        **more,
    )


def _on_the_network(address: str, port: int) -> list[_Beside]:
    """Limpet over TLS on an address of the local network, and the doorstep where a phone gets its trust."""
    from server.lan.authority import certificates
    from server.lan.doorstep import doorstep
    from server.lan.square import square_for_terminal

    files = certificates(settings.LAN_FOLDER, address)
    words = (
        f"On the network: {settings.LAN_ORIGIN}/\n"
        f"A phone begins at {settings.LAN_DOORSTEP} (Menu, Take it to the phone):\n"
        f"{square_for_terminal(settings.LAN_DOORSTEP)}"
    )
    if files.replaced is not None:
        words += (
            f"\nThe authority was made anew: an earlier Limpet's could have signed for any site. Remove "
            f"“{files.replaced}” from the trusted certificates of each phone (settings, security), then "
            "take the new one as above."
        )
    tls = {"ssl_certfile": str(files.certificate), "ssl_keyfile": str(files.key)}
    # The address of a peer is its own: nobody on the network speaks for another.
    plain = doorstep(files, f"{settings.LAN_ORIGIN}/")
    return [
        _Beside(
            _config("server.asgi:application", address, port, proxy_headers=False, **tls), words
        ),
        _Beside(_config(plain, address, port + 1, proxy_headers=False), ""),
    ]


def main() -> None:
    """Run the server until it is told to stop."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--port", type=int, required=True)
    parser.add_argument("--lan-port", type=int, help="served over TLS on LIMPET_LAN as well")
    options = parser.parse_args()
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")
    django.setup()
    print("· Bringing the database up to date …", flush=True)
    call_command("migrate", interactive=False, verbosity=0)
    if settings.WITH_DEMO:
        print("· Loading the demo, the island of Skerrow …", flush=True)
        call_command("load_demo")
    # The page's files are read whole by a synchronous middleware; they are small and compressed.
    warnings.filterwarnings("ignore", message="StreamingHttpResponse must consume synchronous")
    # Models can be imported only now.

    from server.removed import purge_all
    from server.results.worker import Worker

    purge_all()
    results = Worker()
    if settings.COMPUTES_RESULTS:
        results.start()
    address = f"http://127.0.0.1:{options.port}/"
    first = _Announced(
        _config("server.asgi:application", "127.0.0.1", options.port),
        f"\nLimpet is at {address}   (Ctrl-C stops it)\n",
    )
    beside = _on_the_network(settings.LAN_ADDRESS, options.lan_port) if settings.LAN_ADDRESS else []
    asyncio.run(_all(first, beside))
    results.stop()
    if results.is_alive():
        results.join(timeout=5)


if __name__ == "__main__":
    main()
