"""An account that has one of everything, and a right request for each operation that names it by an id."""

from __future__ import annotations

import io
import json
import zipfile
from dataclasses import dataclass, field
from typing import Any
from uuid import uuid4

from django.core.files.uploadedfile import SimpleUploadedFile

from server.accounts.models import SignedIn
from server.results.worker import look_once
from tests.core.files.test_photos import PLAIN
from tests.server.conftest import note
from tests.server.test_follow import as_base64
from tests.server.test_plans import CELL, CLAIM
from tests.server.test_streams import METER, batch


@dataclass
class World:
    """What Ines has, by id."""

    api: Any
    kit: dict[str, str]
    ids: dict[str, str] = field(default_factory=dict)


def world_of(ines: Any, kit: dict[str, str], ride: str) -> World:
    """Of everything that an account can have, one of Ines's."""
    ids = {name: str(uuid4()) for name in ("plan", "claim", "trip", "route", "series", "test", "stream", "photo", "guess", "planned", "begun")}  # fmt: skip
    leg = {"length_m": "6 km", "climb_m": 40, "bearing_deg": 90, "stops": 3}
    trip = {**kit, "legs": [leg], "and_back": True, "policy": "fixed", "target_mps": "20 km/h"}
    ids["ride"] = ride
    note(ines, ride, 0, "start", voltage_rest_v=54.4, trip_m=0)
    ids["entry"] = str(uuid4())
    note(ines, ride, 1200, entry_id=ids["entry"], voltage_rest_v=52.0, trip_m="6 km")
    made = World(ines, kit, ids)
    ok = [
        ines.put(f"/tests/{ride}/streams/{ids['stream']}", METER),
        ines.put(f"/tests/{ride}/streams/{ids['stream']}/batches/0", batch(0)),
        ines.put(f"/tests/{ride}/photos/{ids['photo']}", {"jpeg": as_base64(PLAIN)}),
        ines.put(f"/tests/{ride}/sheet", {"base": 0, "start": {"full": True}}),
        ines.put(f"/tests/{ids['test']}", {"title": "Harbour again", "started_at": "2026-05-15T09:00:00+02:00", **kit}),
        ines.put(f"/claims/{ids['claim']}", CLAIM),
        ines.put(f"/routes/{ids['route']}", {"name": "Quay loop", "kind": "legs", "legs": [leg]}),
        ines.put(f"/trips/{ids['trip']}", {"name": "To the light", "asked": trip}),
        ines.put(f"/plans/{ids['plan']}", {**trip, "title": "Over the hill", "purpose": "commute", "end_rule": "route_end"}),
    ]  # fmt: skip
    assert [answer.status_code for answer in ok] == [200] * len(ok), [a.content for a in ok]
    _drop(ines, ids)
    started = {"started_at": "2026-06-01T09:00:00+02:00"}
    begun = {**trip, "title": "Along the quay", "purpose": "commute", "end_rule": "route_end"}
    ines.put(f"/plans/{ids['begun']}", begun)
    planned = ines.put(f"/plans/{ids['begun']}/ride/{ids['planned']}", started)
    assert planned.status_code == 200, planned.content
    note(ines, ids["test"], 0, "start", voltage_rest_v=54.4, trip_m=0)
    note(ines, ids["test"], 1800, voltage_rest_v=50.0, trip_m="9 km")
    ines.put(f"/tests/{ids['test']}/ending", {"reason": "home"})
    look_once()
    changes = ines.get(f"/tests/{ride}").json()["sheet"]["history"]
    ids["change"] = str(changes[0]["id"])
    ids["session"] = str(SignedIn.objects.get(owner=ines.user).pk)
    series = ines.put(f"/plans/series/{ids['series']}", {"first": [ids["test"]], "second": [ids["ride"]], "runs": 1})  # fmt: skip
    assert series.status_code in (200, 409), series.content
    return made


#: A log as a stranger's meter writes it.
LOG = b"Time (s),Voltage (V),Current (A)\n" + b"".join(
    b"%d,%.2f,%.2f\n" % (k, 54 - k / 50, 4 + k % 3) for k in range(60)
)
MAPPING = {
    "instrument": "Blue meter",
    "time": {"sources": ["Time (s)"], "form": "elapsed"},
    "columns": [
        {"source": "Voltage (V)", "quantity": "voltage_v"},
        {"source": "Current (A)", "quantity": "current_a"},
    ],
}
_TAKEN = {"key": 0, "use": "log", "mapping": MAPPING}


def _drop(ines: Any, ids: dict[str, str]) -> None:
    """Files that are held, and an import that was taken."""
    zipped = io.BytesIO()
    with zipfile.ZipFile(zipped, "w") as archive:
        archive.writestr("account.json", json.dumps({"limpet_account": 1}))
    for name, files in (
        ("drop", [("a.csv", LOG), ("b.csv", LOG + b"60,52,4\n")]),
        ("whole", [("a.zip", zipped.getvalue())]),
    ):
        ids[name] = str(uuid4())
        parts = [SimpleUploadedFile(*each) for each in files]
        answer = ines.client.post("/api/imports", {"id": ids[name], "files": parts})
        assert answer.status_code == 200, answer.content
    ids["brought"] = str(uuid4())
    stored = ines.post(f"/imports/{ids['drop']}/store", {"id": ids["brought"], "parts": [_TAKEN]})
    assert stored.status_code == 200, stored.content


Case = tuple[str, str, dict[str, Any] | None]


def cases(w: World) -> dict[str, list[Case]]:
    """Requests that are right in Ines's own hands, for each operation that names something by an id."""
    i, kit = w.ids, w.kit
    ride, test, leg = f"/tests/{i['ride']}", f"/tests/{i['test']}", {"length_m": "6 km"}
    trip = {**kit, "legs": [leg]}
    plan = {**trip, "title": "Over the hill", "purpose": "commute", "end_rule": "route_end"}
    started = {"started_at": "2026-06-01T09:00:00+02:00"}
    entry = {"time_s": 2400, "kind": "checkpoint", "trip_m": "8 km"}
    compared = f"first={i['test']}&second={i['ride']}&question=repeat"
    found: dict[str, list[Case]] = {
        "askForecast": [
            ("POST", "/forecast", trip),
            ("POST", "/forecast", {**kit, "route_id": i["route"]}),
        ],
        "sizePack": [("POST", "/size", {"trip": trip, "cell": CELL})],
        "getTideTable": [("GET", "/tidetable?" + "&".join(f"{k}={v}" for k, v in kit.items()), None)],
        "previewPlan": [("POST", "/plans/preview", plan)],
        "compareTests": [("GET", f"/compare?{compared}", None)],
        "putClaim": [("PUT", f"/claims/{i['claim']}", CLAIM)],
        "putPack": [("PUT", f"/packs/{kit['pack_id']}", {"name": "Eider-3", "chemistry": "nmc", "series": 13, "rated_ah": 14})],
        "putRider": [("PUT", f"/riders/{kit['rider_id']}", {"name": "Ines", "mass_kg": 66})],
        "putVehicle": [("PUT", f"/vehicles/{kit['vehicle_id']}", {"name": "Sandpiper", "kind": "bicycle"})],
        "putRoute": [("PUT", f"/routes/{i['route']}", {"name": "Quay loop", "kind": "legs", "legs": [leg]})],
        "putTrip": [
            ("PUT", f"/trips/{i['trip']}", {"name": "To the light", "asked": trip}),
            ("PUT", f"/trips/{uuid4()}", {"name": "To the pier", "asked": trip}),
        ],
        "putPlan": [("PUT", f"/plans/{i['plan']}", plan), ("PUT", f"/plans/{uuid4()}", plan)],
        "settleIt": [("PUT", f"/plans/series/{uuid4()}", {"first": [i["test"]], "second": [i["ride"]], "runs": 1})],
        "getSeries": [("GET", f"/plans/series/{i['series']}", None)],
        "seriesCalendar": [("GET", f"/plans/series/{i['series']}/calendar.ics?first=2026-06-01T09:00:00%2B02:00", None)],
        "getPlan": [("GET", f"/plans/{i['plan']}", None)],
        "planCalendar": [("GET", f"/plans/{i['plan']}/calendar.ics?first=2026-06-01T09:00:00%2B02:00", None)],
        "tickPlan": [("PUT", f"/plans/{i['plan']}/checklist", {"ticked": []})],
        "followPlan": [("GET", f"/plans/{i['plan']}/follow", None)],
        "sealGuess": [("PUT", f"/plans/{i['plan']}/guesses/{uuid4()}", {"name": "Me", "distance_m": "20 km"})],
        "startPlanned": [("PUT", f"/plans/{i['plan']}/ride/{uuid4()}", started)],
        "startRide": [
            ("PUT", ride, {"title": "Mine now", **started, **kit}),
            ("PUT", f"/tests/{uuid4()}", {"title": "With her kit", **started, **kit}),
        ],
        "putRemembered": [
            ("PUT", f"/tests/{uuid4()}/remembered", {"title": "Told", **started, **kit, "entries": [{"voltage_rest_v": 54.4, "trip_m": 0}, {"voltage_rest_v": 48, "trip_m": "9 km"}]}),
        ],
        "getDrop": [("GET", f"/imports/{i['drop']}", None)],
        "getStage": [("GET", f"/imports/{i['drop']}/stage", None)],
        "lookAtPart": [("POST", f"/imports/{i['drop']}/parts/0/look", {"mapping": MAPPING})],
        "matchParts": [("POST", f"/imports/{i['drop']}/match", {"first": _TAKEN, "second": {**_TAKEN, "key": 1}})],
        "partRides": [("POST", f"/imports/{i['drop']}/rides", {"id": str(uuid4()), "parts": [_TAKEN]})],
        "storeDrop": [("POST", f"/imports/{i['drop']}/store", {"id": str(uuid4()), "parts": [{**_TAKEN, "key": 1}], "test_id": i["test"]})],
        "takeAccount": [("POST", f"/imports/{i['whole']}/account/{uuid4()}", {})],
        "undoImport": [("POST", f"/imports/{i['brought']}/undo", {})],
        "forgetDrop": [("DELETE", f"/imports/{i['whole']}", None)],
        "getTestFile": [("GET", f"{test}/file/xlsx", None)],
        "exportBundles": [("GET", f"/tests/bundles.zip?ids={i['test']}", None)],
        "removeTests": [("POST", "/tests/remove", {"ids": [i["test"]]})],
        "listKitCopies": [("GET", f"/tests/kit/pack/{kit['pack_id']}", None)],
        "carryKit": [("POST", f"/tests/kit/pack/{kit['pack_id']}", {"tests": [i["test"]]})],
        "getTest": [("GET", test, None)],
        "exportBundle": [("GET", f"{test}/bundle.zip", None)],
        "endRide": [("PUT", f"{ride}/ending", {"reason": "home"})],
        "resumeRide": [("DELETE", f"{test}/ending", None)],
        "putEntry": [("PUT", f"{ride}/entries/{i['entry']}", entry), ("PUT", f"{ride}/entries/{uuid4()}", entry)],
        "deleteEntry": [("DELETE", f"{ride}/entries/{i['entry']}", None)],
        "restoreEntry": [("PUT", f"{ride}/entries/{i['entry']}/restored/{uuid4()}", {})],
        "followRide": [("GET", f"{ride}/follow?way=back", None)],
        "getPhoto": [("GET", f"{ride}/photo?name=photos/{i['photo']}.jpg", None)],
        "putPhoto": [("PUT", f"{ride}/photos/{uuid4()}", {"jpeg": as_base64(PLAIN)})],
        "getPlanOfTest": [("GET", f"/tests/{i['planned']}/plan", None)],
        "getResultJson": [("GET", f"{test}/result.json", None)],
        "putSheet": [("PUT", f"{ride}/sheet", {"base": 1, "start": {"full": False}})],
        "undoSheetChange": [("POST", f"{ride}/sheet/changes/{i['change']}/undo", {})],
        "listStreams": [("GET", f"{ride}/streams", None)],
        "openStream": [("PUT", f"{ride}/streams/{i['stream']}", METER), ("PUT", f"{ride}/streams/{uuid4()}", METER)],
        "appendSamples": [("PUT", f"{ride}/streams/{i['stream']}/batches/1", batch(60))],
        "seeChanged": [("POST", f"{ride}/changed/seen", {})],
        "getTraces": [("GET", f"{ride}/traces", None)],
        "fitVehicle": [("PUT", f"/vehicles/{kit['vehicle_id']}/fit", {})],
        "forgetFit": [("DELETE", f"/vehicles/{kit['vehicle_id']}/fit", None)],
        "leaveAside": [("PUT", f"/vehicles/{kit['vehicle_id']}/lessons", {"left_aside": ["trip"]})],
        "getSeasons": [("GET", f"/vehicles/{kit['vehicle_id']}/seasons", None)],
        "getPackLife": [("GET", f"/packs/{kit['pack_id']}/life", None)],
        "getRiderLife": [("GET", f"/riders/{kit['rider_id']}/life", None)],
        "getVehicleLife": [("GET", f"/vehicles/{kit['vehicle_id']}/life", None)],
    }  # fmt: skip
    found["signOutThere"] = [("DELETE", f"/account/sessions/{i['session']}", None)]
    things = {
        "Claim": f"/claims/{i['claim']}", "Pack": f"/packs/{kit['pack_id']}", "Rider": f"/riders/{kit['rider_id']}",
        "Vehicle": f"/vehicles/{kit['vehicle_id']}", "Route": f"/routes/{i['route']}", "Trip": f"/trips/{i['trip']}",
        "Plan": f"/plans/{i['plan']}", "Test": test,
    }  # fmt: skip
    for noun, path in things.items():
        found[f"delete{noun}"] = [("DELETE", path, None)]
    return found
