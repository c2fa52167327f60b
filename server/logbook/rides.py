"""Rides that are logged as they happen: begun, ended, taken up again; each in one transaction."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime
from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction

from limpet.evidence.model import (
    Conditions,
    Instruments,
    PackUse,
    Protocol,
    Purpose,
    RiderSpec,
    Start,
    TestSheet,
    Tyres,
)
from server.kit.services import pack_spec, rider_spec, vehicle_spec
from server.logbook import sheets
from server.logbook.changes import locked, touch
from server.logbook.models import RangeTest
from server.logbook.quotas import check_room
from server.logbook.ridden import Ridden, ridden_kit
from server.logbook.rows import sheet_columns
from server.logbook.signals import ride_ended
from server.wire.owned import create_once
from server.wire.problems import ConflictError
from server.wire.room import check_disk


@dataclass(frozen=True, slots=True, kw_only=True)
class RideStart:
    """What is said of a ride before its first metre.

    `gear_kg` is carried this time beside the rider; None takes what the rider usually carries.
    """

    title: str
    started_at: datetime
    vehicle_id: UUID | str
    pack_id: UUID | str
    rider_id: UUID | str | None = None
    purpose: Purpose | None = None
    gear_kg: float | None = None
    packs_used: int = 1
    packs_use: PackUse | None = None
    protocol: Protocol | None = None
    start: Start | None = None
    instruments: Instruments | None = None
    conditions: Conditions | None = None
    tyres: Tyres | None = None


def begin_ride(owner: User, test_id: UUID, ride: RideStart) -> RangeTest:
    """Begin a test that is logged by hand. Sent again, it changes nothing.

    Raises
    ------
    FieldError
        With what is not in the account's kit.
    """
    # A repeat is answered before the kit is looked for, which may be gone by now.
    stored = RangeTest.objects.owned_by(owner).filter(pk=test_id).first()
    if stored is not None:
        return stored
    check_disk()
    check_room(owner, tests=1)
    ridden = ridden_kit(owner, ride.vehicle_id, ride.pack_id, ride.rider_id)
    values = {
        "state": RangeTest.State.RIDING,
        **ridden._asdict(),
        **sheet_columns(_sheet_of(ride, ridden)),
    }
    test, _ = create_once(RangeTest, owner, test_id, values)
    return test


def _sheet_of(ride: RideStart, ridden: Ridden) -> TestSheet:
    load = rider_spec(ridden.rider) if ridden.rider else None
    if ride.gear_kg is not None:
        load = replace(load or RiderSpec(), gear_kg=ride.gear_kg)
    return TestSheet(
        title=ride.title,
        purpose=ride.purpose,
        started_at=ride.started_at,
        vehicle=vehicle_spec(ridden.vehicle),
        pack=pack_spec(ridden.pack),
        packs_used=ride.packs_used,
        packs_use=ride.packs_use,
        rider=load,
        protocol=ride.protocol,
        start=ride.start,
        instruments=ride.instruments,
        conditions=ride.conditions,
        tyres=ride.tyres,
    )


def start_of(charge: str | None) -> Start | None:
    """What a rider says of the charge before the first metre; None is not known."""
    if charge is None:
        return None
    return Start(full=charge == "just_charged", just_charged=charge == "just_charged")


def end_ride(owner: User, test_id: UUID, reason: str, note: str) -> RangeTest:
    """Say why the ride stopped; from here the test has a result. Sent again, it changes nothing."""
    with transaction.atomic():
        test = locked(owner, test_id)
        if not test.entries.standing().exists() and not test.streams.filter(rows__gt=0).exists():
            raise ConflictError("Add an entry before you end the ride: nothing is noted yet.")
        changed = sheets.change(test, owner, {"ending": {"reason": reason, "note": note}})
        if test.state == RangeTest.State.ENDED and not changed:
            return test
        test.state = RangeTest.State.ENDED
        test.save()
        touch(test)
        ride_ended.send(RangeTest, test=test)
    return test


def resume_ride(owner: User, test_id: UUID) -> RangeTest:
    """Take an ended ride up again; how it ends is said anew. Sent again, it changes nothing."""
    with transaction.atomic():
        test = locked(owner, test_id)
        if test.state == RangeTest.State.RIDING:
            return test
        sheets.change(test, owner, {"ending": {"reason": None, "note": None}})
        test.state = RangeTest.State.RIDING
        test.save()
        touch(test)
    return test
