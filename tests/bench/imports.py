"""A stranger's million rows: looked at, changed, read and worked out, against polars reading the same file; and killed."""

from __future__ import annotations

import random
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import polars as pl

from limpet.files.sheet import sheet_adapter
from limpet.foreign.drawn import drawing_of
from limpet.foreign.guess import look_at
from limpet.foreign.mapping_file import mapping_document
from limpet.foreign.raw import read_raw
from limpet.foreign.recipe import LogMapping
from limpet.foreign.stranger import sheet_for
from limpet.foreign.taken import taken
from tests.core.foreign.strangers import ride

Times = Callable[[Callable[[], object]], tuple[float, float]]
Say = Callable[..., None]
ROWS, KILLS = 1_000_000, 12


def million(path: Path) -> None:
    """Twelve columns as a common logger writes them, two days at five a second."""
    truth = ride(ROWS, 0.2, ah=10.4 * 90)
    moments = pl.from_epoch(
        pl.Series((1.7788e12 + truth["time_s"] * 1000).astype("int64")), time_unit="ms"
    )
    pl.DataFrame(
        {
            "Time": moments.dt.strftime("%Y-%m-%d %H:%M:%S%.3f"),
            "Voltage (V)": truth["voltage_v"].round(2),
            "Current (A)": truth["current_a"].round(2),
            "Power (W)": truth["power_w"].round(1),
            "Ah": truth["charge_ah"].round(4),
            "Wh": truth["energy_wh"].round(3),
            "Speed (km/h)": (truth["speed_mps"] * 3.6).round(2),
            "Distance (km)": (truth["distance_m"] / 1000).round(4),
            "Alt (m)": truth["altitude_m"].round(1),
            "Battery temp (°C)": (20 + truth["gauge"] / 20).round(1),
            "Motor temp (°C)": truth["motor_temp_c"].round(1),
            "SoC (%)": truth["gauge"],
        }
    ).write_csv(path)


def bench_imports(best_of: Times, line: Say, folder: Path) -> None:
    """Look, change, take: each a ratio to polars reading the file; then killed while it reads."""
    from server.imports.reading import read_ride
    from server.results.figures import derived

    path = folder / "million.csv"
    million(path)
    yardstick = best_of(lambda: pl.read_csv(path))
    line(f"yardstick: polars reads {path.stat().st_size / 1e6:.0f} MB of CSV", yardstick, "-")

    def looked() -> LogMapping:
        raw = read_raw(path.name, path.read_bytes(), sample=True)
        mapping = look_at(raw).mapping("Logger", raw)
        drawing_of(taken(raw, mapping).samples)
        return mapping

    mapping = looked()
    line("a look at it, drawn", found := best_of(looked), "1.5 s", found[0] / yardstick[0])

    def changed() -> None:
        raw = read_raw(path.name, path.read_bytes(), sample=True)
        drawing_of(taken(raw, mapping).samples)

    line("a choice changed, drawn", found := best_of(changed), "0.2 s", found[0] / yardstick[0])
    spec: dict[str, Any] = {
        "file": str(path), "name": path.name, "form": "csv", "use": "log", "offset_s": 0.0, "cut": None, "span": None,
        "mapping": mapping_document(mapping),
    }  # fmt: skip
    sheet = sheet_adapter().dump_python(
        sheet_for("x", pack={"series": 13, "rated_ah": 900.0}), mode="json", exclude_none=True
    )
    found = best_of(lambda: read_ride([spec], sheet, None, derived))
    line("read whole, worked out, cut into chunks", found, "6 x", found[0] / yardstick[0])
    _killed(spec, sheet)


def _killed(spec: dict[str, Any], sheet: dict[str, Any]) -> None:
    """The reader is killed at any moment: whoever waits is told, and has nothing."""
    from server.imports.reading import read_ride
    from server.wire.apart import apart
    from server.wire.problems import CancelledError

    draw, told = random.Random(29), 0
    for _ in range(KILLS):
        until = time.perf_counter() + draw.uniform(0.2, 6.0)
        try:
            apart(
                read_ride,
                [spec],
                sheet,
                None,
                None,
                watch=lambda stage, until=until: time.perf_counter() < until,
            )
        except CancelledError:
            told += 1
    print(
        f"killed while it read: {told} of {KILLS} told so, nothing given; the others were done before"
    )
