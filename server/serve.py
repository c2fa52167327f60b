"""Bring the database up to date, load the demo if it is there, and serve."""

from __future__ import annotations

import argparse
import os
import warnings
from socket import socket

import django
import uvicorn
from django.conf import settings
from django.core.management import call_command

#: Requests at once; more are answered with 503 by uvicorn itself.
MOST_AT_ONCE = 300


class _Announced(uvicorn.Server):
    """Says where it is once it listens, not before."""

    async def startup(self, sockets: list[socket] | None = None) -> None:
        await super().startup(sockets)
        address = f"http://127.0.0.1:{self.config.port}/"
        print(f"\nLimpet is at {address}   (Ctrl-C stops it)\n", flush=True)


def main() -> None:
    """Run the server until it is told to stop."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--port", type=int, required=True)
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
    config = uvicorn.Config(
        "server.asgi:application",
        host="127.0.0.1",
        port=options.port,
        log_level="warning",
        lifespan="off",
        timeout_graceful_shutdown=5,
        limit_concurrency=MOST_AT_ONCE,
    )
    _Announced(config).run()
    results.stop()
    if results.is_alive():
        results.join(timeout=5)


if __name__ == "__main__":
    main()
