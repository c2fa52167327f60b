"""Serve Limpet with the island of Skerrow and its made-up weather office."""

from __future__ import annotations

import os

from server import serve
from standins import weather


def main() -> None:
    """Run the office beside the server; settings know it by its address alone."""
    if not os.environ.get("LIMPET_DEMO_WEATHER_URL"):
        _, os.environ["LIMPET_DEMO_WEATHER_URL"] = weather.serve()
    serve.main()


if __name__ == "__main__":
    main()
