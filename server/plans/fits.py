"""A vehicle's road load from its own tests, kept on the vehicle."""

from __future__ import annotations

from dataclasses import asdict
from typing import cast
from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction

from limpet.errors import OutOfRangeError
from limpet.fitting.fit import fit_road
from limpet.fitting.rides import usable_for_fit
from limpet.result import analyse
from limpet.road import VehicleKind
from server.kit.models import Vehicle
from server.logbook.models import RangeTest
from server.logbook.rows import core_test
from server.wire.problems import ConflictError
from server.wire.stored import wrapped
from server.wire.turns import by_turns

#: The newest so many tests are read: a vehicle changes, and a fit must not take all day.
NEWEST = 12


@by_turns
def fit_vehicle(owner: User, vehicle_id: UUID) -> Vehicle:
    """Fit a vehicle's road load to its newest tests and keep it, with the tests it came from.

    Raises
    ------
    ConflictError
        When none of its tests can tell anything, with what each lacks.
    """
    vehicle: Vehicle = Vehicle.objects.owned_by(owner).get(pk=vehicle_id)
    tests = RangeTest.objects.owned_by(owner).filter(vehicle=vehicle, state=RangeTest.State.ENDED)
    rides, used, left_out, pressures = [], [], [], []
    for test in tests.order_by("-started_at")[:NEWEST]:
        evidence = core_test(test)
        usable = usable_for_fit(evidence, analyse(evidence))
        if usable.ride is None:
            left_out.append(f"{test.title}: {usable.why_not}")
            continue
        rides.append(usable.ride)
        used.append(test.title)
        tyres = evidence.sheet.tyres
        if tyres is not None and tyres.pressure_kpa is not None:
            pressures.append(tyres.pressure_kpa)
    if not rides:
        why = "; ".join(left_out) or "it has no ended test yet"
        raise ConflictError(f"Nothing to fit {vehicle.name} to: {why}.")
    mean_kpa = sum(pressures) / len(pressures) if pressures else None
    try:
        found = fit_road(
            cast(VehicleKind, vehicle.kind), rides, tests=len(rides), tyre_kpa=mean_kpa
        )
    except OutOfRangeError as cause:
        raise ConflictError(f"{cause}.".removeprefix("fit: ").capitalize()) from cause
    with transaction.atomic():
        kept: Vehicle = Vehicle.objects.owned_by(owner).select_for_update().get(pk=vehicle_id)
        kept.fit = wrapped(
            {
                "road": asdict(found.fit),
                "names": list(found.fit.names),
                "values": list(found.fit.values),
                "standard_uncertainties": list(found.standard_uncertainties),
                "told": list(found.told),
                "statement": found.statement,
                "tests": used,
                "left_out": left_out,
                "windows": found.windows,
            }
        )
        kept.save(update_fields=["fit"])
    return kept


def forget_fit(owner: User, vehicle_id: UUID) -> Vehicle:
    """Go back to start values."""
    with transaction.atomic():
        kept: Vehicle = Vehicle.objects.owned_by(owner).select_for_update().get(pk=vehicle_id)
        kept.fit = None
        kept.save(update_fields=["fit"])
    return kept
