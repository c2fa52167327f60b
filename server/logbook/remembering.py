"""A ride that was ridden already, out of what its rider remembers."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import User

from limpet.evidence.checks import refused_readings
from limpet.evidence.columns import ENTRY_COLUMNS
from limpet.evidence.model import Ending, Instruments, LapInstrument, RangeTest, Start, TestSheet
from limpet.evidence.remembered import remembered
from server.kit.services import pack_spec, rider_spec, vehicle_spec
from server.logbook.ridden import ridden_kit
from server.wire.problems import FieldError


def remembered_test(owner: User, asked: dict[str, Any]) -> RangeTest:
    """A ride that was ridden already, out of what its rider remembers.

    Raises
    ------
    FieldError
        With every fault, rows by `entries.row.field`.
    """
    vehicle, pack, rider = ridden_kit(
        owner, asked["vehicle_id"], asked["pack_id"], asked["rider_id"]
    )
    lap_m = asked["lap_length_m"]
    rows = [
        {name: value for name, value in row.items() if value is not None and value != ""}
        for row in asked["entries"]
    ]
    entries, faults = remembered(rows, lap_m)
    spec = pack_spec(pack)
    for index, row in enumerate(rows):
        odd = refused_readings(ENTRY_COLUMNS, row, spec)
        faults = {**{f"{index}.{name}": text for name, text in odd.items()}, **faults}
    if faults:
        raise FieldError({f"entries.{name}": text for name, text in faults.items()})
    started = asked["started_at"]
    sheet = TestSheet(
        title=asked["title"],
        purpose=asked["purpose"],
        started_at=started,
        vehicle=vehicle_spec(vehicle),
        pack=spec,
        rider=rider_spec(rider) if rider else None,
        start=Start(full=asked["full"]) if asked["full"] is not None else None,
        instruments=Instruments(lap=LapInstrument(length_m=lap_m)) if lap_m else None,
        ending=Ending(reason=asked["reason"]) if asked["reason"] else None,
    )
    return RangeTest(sheet=sheet, entries=entries)
