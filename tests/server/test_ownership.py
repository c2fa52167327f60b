"""Every operation of the description, asked with valid bodies and somebody else's ids.

The list is the description's own: an operation without its case here fails.
"""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest
from django.apps import apps
from django.db import transaction

from standins import weather
from tests.server.world import Case, cases, world_of

DESCRIPTION = json.loads((Path(__file__).parents[2] / "server" / "openapi.json").read_text())
OPERATIONS = {
    operation["operationId"]
    for methods in DESCRIPTION["paths"].values()
    for operation in methods.values()
}

#: What asks for nothing of an account's by an id, and so can tell nothing of another's: what it answers is
#: looked through for Ines's ids and names.
PLAIN_ASKED = {
    "getAccount": "/account",
    "listAssumptions": "/assumptions",
    "listClaims": "/claims",
    "offerTests": "/compare/offers?question=repeat",
    "listImports": "/imports",
    "listFormats": "/formats",
    "getFormat": "/formats/trip.schema.json",
    "getLastBackup": "/backups/last",
    "listPacks": "/packs",
    "understandPack": "/packs/understood?text=48V%2014Ah",
    "getPhone": "/phone",
    "listPlans": "/plans",
    "getWagers": "/plans/wagers",
    "getPractice": "/practice",
    "listRiders": "/riders",
    "listRoutes": "/routes",
    "listRules": "/rules",
    "getSession": "/session",
    "listTests": "/tests",
    "findTests": "/tests/find?words=Harbour",
    "getNow": "/tests/now",
    "listTrips": "/trips",
    "listVehicles": "/vehicles",
    "getWeather": "/weather?place=Skerrow&date=2026-05-14",
}
#: What acts on the account of whoever asks, names nothing by an id, and has tests of its own.
OWN_ACCOUNT = {
    "createAccount", "signIn", "signOut", "signInToDemo", "renewDemo", "signInByCode", "whoseCode",
    "newPhoneCode", "changePassword", "signOutElsewhere", "putAssumption", "deleteAssumption", "putUnits",
    "checkClaim", "measureLoop", "readPasted", "followPractice", "reviewPractice", "leaveAccount", "keepAccount", "toldOfDevices", "emptyRemoved", "importRoute", "importBundle", "dropFiles", "exportAccount", "getHome", "putHome", "forgetHome",
}  # fmt: skip


@pytest.fixture
def world(ines, kit, ride):
    return world_of(ines, kit, ride)


def ask(api: Any, case: Case) -> Any:
    method, path, body = case
    if method == "GET":
        return api.get(path)
    if method == "DELETE":
        return api.delete(path)
    return (api.put if method == "PUT" else api.post)(path, body or {})


#: Fields by which a body names a thing: what is not one's own is refused beside the field, in the words for
#: what there is not.
NAMING = {"vehicle_id", "pack_id", "rider_id", "route_id", "trip", "tests", "first", "second"}
#: Whose ids are chosen by whoever stores: one that is taken is said to be, and nothing more.
TAKEN = {"putClaim", "putPack", "putRider", "putVehicle", "putRoute", "putTrip", "putPlan", "startRide"}  # fmt: skip


def check_refused(operation: str, answer: Any) -> None:
    said = answer.content.decode()[:400] if not answer.streaming else "a file"
    if operation == "getPlanOfTest":
        # No plan is told of a ride that there is not, as of one that nobody planned.
        assert (answer.status_code, said) == (200, "null")
        return
    if answer.status_code == 422:
        assert {name.partition(".")[0] for name in answer.json()["fields"]} <= NAMING, (
            operation,
            said,
        )
    elif answer.status_code == 409:
        assert operation in TAKEN, (operation, said)
    else:
        assert answer.status_code == 404, (operation, answer.status_code, said)


def everything() -> str:
    """All rows of all that riders store, as text."""
    rows = [
        (model.__name__, sorted(str(row) for row in model._default_manager.values()))
        for model in apps.get_models()
        if model._meta.app_label in ("kit", "logbook", "results", "plans")
    ]
    return str(rows)


def test_every_operation_of_the_description_has_its_case(world):
    restored = {
        name.replace("delete", "restore") for name in cases(world) if name.startswith("delete")
    }
    known = set(cases(world)) | restored | {"restoreTests"}
    assert known | set(PLAIN_ASKED) | OWN_ACCOUNT == OPERATIONS
    assert not known & (set(PLAIN_ASKED) | OWN_ACCOUNT)


def test_nobody_sees_or_changes_what_is_anothers(world, tobias, nobody):
    ines, before = world.api, everything()
    for operation, asked in cases(world).items():
        for case in asked:
            check_refused(operation, ask(tobias, case))
            assert ask(nobody, case).status_code == 401, operation
    assert everything() == before
    # And each was right but for whose it is.
    for operation, asked in cases(world).items():
        for case in asked:
            with transaction.atomic():
                done = ask(ines, case)
                assert done.status_code in (200, 201, 204), (operation, case[1], done.content[:300])
                assert operation != "getPlanOfTest" or done.json() is not None
                transaction.set_rollback(True)


def test_nobody_has_back_what_another_removed(world, tobias, nobody):
    ines = world.api
    removals = {name: asked for name, asked in cases(world).items() if name.startswith("delete")}
    back = [
        (f"{case[1]}/restore", {}) for name, (case,) in removals.items() if name != "deleteEntry"
    ]
    back.append(("/tests/restore", {"ids": [world.ids["test"]]}))
    for path, body in back:
        with transaction.atomic():
            gone = (
                path.removesuffix("/restore")
                if "ids" not in body
                else f"/tests/{world.ids['test']}"
            )
            assert ines.delete(gone).status_code == 204
            assert tobias.post(path, body).status_code == 404, path
            assert nobody.post(path, body).status_code == 401
            assert ines.post(path, body).status_code == 204, path
            transaction.set_rollback(True)


def test_what_is_listed_is_ones_own(world, tobias, nobody, settings):
    server, settings.WEATHER_URL = weather.serve()
    hers = [*(one for one in world.ids.values() if len(one) > 20), *world.kit.values(), "Over the hill", "Quay loop", "Harbour and back"]  # fmt: skip
    open_to_all = {"getSession", "listFormats", "getFormat"}
    for operation, path in PLAIN_ASKED.items():
        answer = tobias.get(path)
        assert answer.status_code == 200, (operation, answer.content)
        for secret in hers:
            assert secret not in answer.content.decode(), (operation, secret)
        assert nobody.get(path).status_code == (200 if operation in open_to_all else 401), operation
    server.shutdown()
    server.server_close()
    # She herself finds them there.
    for path in (
        "/tests",
        "/vehicles",
        "/packs",
        "/riders",
        "/routes",
        "/plans",
        "/trips",
        "/claims",
    ):
        assert any(secret in world.api.get(path).content.decode() for secret in hers), path
