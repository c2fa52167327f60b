"""Bring the database up to date, load the demo if wanted, and serve."""

from __future__ import annotations

import argparse
import os

import django
import uvicorn
from django.core.management import call_command

from standins import weather


def main() -> None:
    """Run the server until it is told to stop."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--port", type=int, required=True)
    parser.add_argument("--no-demo", action="store_true")
    options = parser.parse_args()
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")
    if not os.environ.get("LIMPET_WEATHER_URL"):
        # Until a real source is set up, the made-up weather office answers.
        _, os.environ["LIMPET_WEATHER_URL"] = weather.serve()
    django.setup()
    print("· Bringing the database up to date …", flush=True)
    call_command("migrate", interactive=False, verbosity=0)
    if not options.no_demo:
        print("· Loading the demo, the island of Skerrow …", flush=True)
        call_command("load_demo")
    config = uvicorn.Config(
        "server.asgi:application",
        host="127.0.0.1",
        port=options.port,
        log_level="warning",
        lifespan="off",
        timeout_graceful_shutdown=5,
    )
    server = uvicorn.Server(config)
    print(f"\nLimpet is at http://127.0.0.1:{options.port}/   (Ctrl-C stops it)\n", flush=True)
    server.run()


if __name__ == "__main__":
    main()
