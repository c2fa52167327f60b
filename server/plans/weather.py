"""The weather source: one class, so that another service can be put in its place."""

from __future__ import annotations

import json
from dataclasses import dataclass
from datetime import date
from urllib.error import URLError
from urllib.parse import urlencode
from urllib.request import urlopen

from django.conf import settings

from limpet.errors import LimpetError


class WeatherError(LimpetError):
    """The weather source did not answer, or not in its format."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Weather:
    """Weather at a place on a day, the wind at a rider's height."""

    temp_c: float
    wind_mps: float
    wind_from_deg: float
    pressure_hpa: float
    humidity_pct: float
    source: str


class WeatherSource:
    """Asks the service whose address is in the settings; its answer is standins/weather.py's."""

    timeout_s = 3.0

    def __init__(self, *, demo: bool) -> None:
        # The made-up office answers the made-up island; a rider's plan it would only spoil.
        made_up = demo and bool(settings.DEMO_WEATHER_URL)
        self.address = settings.DEMO_WEATHER_URL if made_up else settings.WEATHER_URL

    def at(self, place: str, day: date) -> Weather:
        """The weather of a place on a day.

        Raises
        ------
        WeatherError
            When there is no service, no answer, or one that is not weather.
        """
        if not self.address:
            raise WeatherError("No weather source is set up. Enter the conditions yourself.")
        asked = f"{self.address}/weather?{urlencode({'place': place, 'date': day.isoformat()})}"
        try:
            with urlopen(asked, timeout=self.timeout_s) as answer:
                found = json.load(answer)
            return Weather(
                **{
                    name: float(found[name])
                    for name in (
                        "temp_c", "wind_mps", "wind_from_deg", "pressure_hpa", "humidity_pct",
                    )
                },
                source=str(found["source"]),
            )  # fmt: skip
        except (URLError, OSError, ValueError, KeyError, TypeError) as cause:
            raise WeatherError(
                "The weather source doesn’t answer. Enter the conditions yourself, or try again."
            ) from cause
