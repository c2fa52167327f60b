"""A made-up weather office on loopback: the same place and day always have the same weather.

`GET /weather?place=Skerrow&date=2026-05-14` answers

    {"place": "Skerrow", "date": "2026-05-14", "temp_c": 12.4, "wind_mps": 3.8,
     "wind_from_deg": 236, "pressure_hpa": 1011.2, "humidity_pct": 78, "source": "…"}

with the wind at a rider's height. A question it does not understand is answered with 400 and
`{"error": "…"}`.
"""

from __future__ import annotations

import json
import threading
from dataclasses import asdict, dataclass
from datetime import date
from hashlib import sha256
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from math import cos, pi
from urllib.parse import parse_qs, urlsplit

import numpy as np

SOURCE = "weather stand-in, made up from place and date"


@dataclass(frozen=True, slots=True, kw_only=True)
class Report:
    """One place's weather on one day."""

    place: str
    date: str
    temp_c: float
    wind_mps: float
    wind_from_deg: float
    pressure_hpa: float
    humidity_pct: float
    source: str = SOURCE


def report(place: str, day: date) -> Report:
    """The weather of a place on a day: a sea climate about its season, seeded by both."""
    seed = int.from_bytes(sha256(f"{place.lower()}|{day.isoformat()}".encode()).digest()[:8], "big")
    rng = np.random.default_rng(seed)
    season = cos(2 * pi * (day.timetuple().tm_yday - 200) / 365.25)
    return Report(
        place=place,
        date=day.isoformat(),
        temp_c=round(9.5 + 7.5 * season + float(rng.normal(0, 2.5)), 1),
        wind_mps=round(float(rng.weibull(2.0)) * 4.2, 1),
        wind_from_deg=round(float(rng.normal(240, 60)) % 360),
        pressure_hpa=round(1012 + float(rng.normal(0, 9)), 1),
        humidity_pct=round(float(np.clip(rng.normal(78, 8), 40, 100))),
    )


class _Handler(BaseHTTPRequestHandler):
    def do_GET(self) -> None:
        """Answer one question."""
        asked = urlsplit(self.path)
        query = parse_qs(asked.query)
        place = query.get("place", [""])[0].strip()
        try:
            day = date.fromisoformat(query.get("date", [""])[0])
        except ValueError:
            return self._say(400, {"error": "date must be like 2026-05-14"})
        if asked.path != "/weather" or not place:
            return self._say(400, {"error": "ask /weather?place=…&date=YYYY-MM-DD"})
        return self._say(200, asdict(report(place, day)))

    def _say(self, status: int, body: dict[str, object]) -> None:
        data = json.dumps(body).encode()
        self.send_response(status)
        self.send_header("Content-Type", "application/json")
        self.send_header("Content-Length", str(len(data)))
        self.end_headers()
        self.wfile.write(data)

    def log_message(self, format: str, *args: object) -> None:
        """Nothing: the stand-in is quiet."""


def serve() -> tuple[ThreadingHTTPServer, str]:
    """Start the office on a free loopback port; returns the server and its address."""
    server = ThreadingHTTPServer(("127.0.0.1", 0), _Handler)
    threading.Thread(target=server.serve_forever, daemon=True, name="weather stand-in").start()
    return server, f"http://127.0.0.1:{server.server_address[1]}"
