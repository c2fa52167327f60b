"""What nobody should be able to break: bad rows, odd bodies, old shapes, races, guesses."""

from __future__ import annotations

import io
import json
import zipfile
from uuid import uuid4

import pytest
from django.contrib.auth.models import User
from django.db import connection
from django.test import Client

from server.kit.models import Pack, Route, Vehicle
from server.logbook.models import Entry, EntryRevision, RangeTest, SampleChunk
from server.plans.models import Plan
from server.results.models import TestResult
from server.results.queries import claim
from server.wire.reading import MOST_DEPTH, BodyError, parse_json
from server.wire.stored import unwrapped, wrapped
from tests.server.conftest import Api, note
from tests.server.test_concurrency import at_once
from tests.strategies import minimal

LEG = {"length_m": 4000, "climb_m": 20}
BAD = [None, "", "soon", "44 psi", [], {}, True, -1e9, 1e12]


def required_fields():
    """(method, path, whole body, field) for every field that must hold something."""
    vehicle = {"name": "Knot", "kind": "moped"}
    pack = {"name": "Auk", "chemistry": "nmc", "series": 13, "rated_ah": 14}
    claim = {"rated_wh": 468, "distance_m": 4e4, "speed_mps": 5, "vehicle_kind": "bicycle"}
    cell = {"capacity_ah": 3.4, "nominal_v": 3.6, "max_current_a": 8, "resistance_ohm": 0.03,
            "mass_kg": 0.048, "chemistry": "nmc"}  # fmt: skip
    route = {"name": "Way", "kind": "legs", "legs": [LEG]}
    step = {**vehicle, "step_down": [{"below_v": 44, "max_speed_mps": 5}]}
    trip = {"vehicle_id": str(uuid4()), "pack_id": str(uuid4()), "legs": [LEG]}
    for path, body, fields in (
        ("/vehicles/{}", vehicle, ["name", "kind"]),
        ("/vehicles/{}", step, ["step_down.0.below_v", "step_down.0.max_speed_mps"]),
        ("/packs/{}", pack, ["name"]),
        ("/riders/{}", {"name": "Ines"}, ["name"]),
        ("/routes/{}", route, ["name", "kind", "legs", "legs.0.length_m", "legs.0.climb_m", "legs.0.descent_m", "legs.0.stops"]),
        ("/claims/{}", claim, ["rated_wh", "distance_m", "speed_mps", "vehicle_kind"]),
        ("/tests/{}", {"title": "x", "started_at": "2026-05-14T09:00:00Z", **trip}, ["title", "started_at", "vehicle_id", "pack_id"]),
        ("/plans/{}", trip, ["vehicle_id", "legs.0.length_m", "legs.0.climb_m", "reserve", "probability", "packs_count"]),
    ):  # fmt: skip
        for field in fields:
            yield "put", path, body, field
    for field in cell:
        yield "post", "/size", {"trip": trip, "cell": cell}, f"cell.{field}"
    for field in ("legs.0.length_m", "probability", "start_energy_fraction"):
        yield "post", "/forecast", {**trip, "start_energy_fraction": 1}, field


def changed(body, path, value):
    copy = json.loads(json.dumps(body))
    *way, last = path.split(".")
    place = copy
    for part in way:
        place = place[int(part)] if part.isdigit() else place[part]
    place[last] = value
    return copy


@pytest.mark.parametrize(
    ("method", "path", "body", "field"),
    list(required_fields()),
    ids=lambda value: value if isinstance(value, str) else "",
)
def test_a_field_that_is_needed_refuses_what_is_none_and_nothing_is_stored(
    ines, method, path, body, field
):
    for bad in BAD:
        if field in ("name", "title") and bad in ("soon", "44 psi"):
            continue  # words are what these hold
        answer = getattr(ines, method)(path.format(uuid4()), changed(body, field, bad))
        assert answer.status_code == 422, (field, bad, answer.content)
        assert answer.json()["fields"], (field, bad)
    for model in (Vehicle, Pack, Route, RangeTest, Plan):
        assert not model.objects.exists()


def test_a_limp_table_typed_by_half_locks_nobody_out(ines):
    body = {"name": "Knot", "kind": "moped", "step_down": [{"below_v": "44 V", "max_speed_mps": ""}]}  # fmt: skip
    answer = ines.put(f"/vehicles/{uuid4()}", body)
    assert answer.status_code == 422
    assert "is needed; write it like 20 km/h" in str(answer.json()["fields"])
    assert ines.get("/vehicles").json() == []


def test_rows_of_yesterday_take_no_list_down(ines, kit, ride):
    """Every stored JSON in shapes of another version, and worse: lists stand, and say what to do."""
    plan_id = str(uuid4())
    ines.put(f"/plans/{plan_id}", {**kit, "legs": [LEG], "title": "Old"})
    note(ines, ride, 5, "start", voltage_rest_v=54.4, trip_m=0)
    entry = Entry.objects.get()
    note(ines, ride, 5, "start", entry_id=entry.pk, voltage_rest_v=54.3, trip_m=0)
    ines.get(f"/tests/{ride}")
    route_id = str(uuid4())
    ines.put(f"/routes/{route_id}", {"name": "Way", "kind": "legs", "legs": [LEG]})
    for odd in (None, [], {}, "text", 7, {"forecast": {}}, {"schema": 9, "core": "x", "value": 3}):
        TestResult.objects.update(strip=odd, figures=odd)
        EntryRevision.objects.update(values=odd if odd is not None else {})
        if odd is not None:
            Plan.objects.update(answer=odd)
            Vehicle.objects.update(step_down=odd)
            Route.objects.update(legs=odd, notices=odd)
            RangeTest.objects.update(notices=odd if isinstance(odd, list) else [odd])
        Vehicle.objects.update(fit=odd)
        Route.objects.update(profile=odd)
        for path in ("/tests", "/tests/now", "/tests/find", f"/tests/{ride}", "/plans",
                     f"/plans/{plan_id}", "/vehicles", "/routes", "/packs"):  # fmt: skip
            assert ines.get(path).status_code == 200, (path, odd)
        found = ines.get(f"/plans/{plan_id}").json()
        if odd is not None:
            assert found["answer"] is None
            assert "Save this plan again" in found["trouble"]
            assert "Save this plan again" in ines.get("/plans").json()[0]["trouble"]
    # Storing it again mends it.
    ines.put(f"/vehicles/{kit['vehicle_id']}", {"name": "Sandpiper", "kind": "bicycle"})
    ines.put(f"/plans/{plan_id}", {**kit, "legs": [LEG], "title": "Old"})
    assert ines.get(f"/plans/{plan_id}").json()["trouble"] == ""


def test_a_plan_as_0_2_stored_it_is_read(ines, kit):
    plan_id = str(uuid4())
    ines.put(f"/plans/{plan_id}", {**kit, "legs": [LEG], "title": "As then"})
    plan = Plan.objects.get()
    # 0.2 kept the values bare.
    Plan.objects.update(asked=plan.asked["value"], answer=plan.answer["value"])
    found = ines.get(f"/plans/{plan_id}").json()
    assert found["answer"]["forecast"]["route"]["distance_m"] == pytest.approx(4000)
    assert found["asked"]["title"] == "As then"


def test_an_envelope_is_brought_to_todays_shape():
    assert unwrapped(wrapped({"a": 1})) == {"a": 1}
    assert unwrapped({"a": 1}) == {"a": 1}
    upgrades = {0: lambda old: {"b": old["a"]}, 1: lambda old: {**old, "c": 3}}
    assert unwrapped({"a": 1}, upgrades) == {"b": 1, "c": 3}
    assert unwrapped(wrapped({"b": 1}, 1), upgrades) == {"b": 1, "c": 3}
    assert unwrapped(wrapped({"b": 1}, 2), upgrades) == {"b": 1}
    assert unwrapped("nonsense", upgrades) == "nonsense"


def test_a_sheet_that_cannot_be_read_is_shown_as_such_with_its_entries(ines, kit, ride):
    note(ines, ride, 5, "start", voltage_rest_v=54.4, trip_m=0)
    RangeTest.objects.update(sheet={"title": "x", "vehicle": {"kind": "hovercraft"}}, revision=9)
    found = ines.get(f"/tests/{ride}").json()
    assert found["sheet"] is None
    assert "cannot be read any more" in found["trouble"]
    assert len(found["entries"]) == 1
    assert ines.get("/tests").json()["items"][0]["computed"] == "failed"
    for path in ("traces", "result.json", "bundle.zip"):
        assert ines.get(f"/tests/{ride}/{path}").status_code in (200, 409)
    for call in (
        lambda: note(ines, ride, 60, voltage_rest_v=50),
        lambda: ines.put(f"/tests/{ride}/ending", {"reason": "home"}),
    ):
        assert call().status_code == 409


def test_chunks_with_other_columns_are_read_together(ines):
    from server.logbook.chunks import chunk_of
    from server.logbook.rows import core_test

    table = b"time_s,voltage_v\n0,54\n10,53.9\n20,53.8\n"
    ines.import_files({"test.json": minimal(), "samples.csv": table})
    test = RangeTest.objects.get()
    import polars as pl

    more = pl.DataFrame({"time_s": [30.0, 40.0], "current_a": [5.0, 6.0]})
    SampleChunk(stream=test.streams.get(), **chunk_of(more, 1, 1)).save()
    samples = core_test(test).samples
    assert samples.columns == ["time_s", "voltage_v", "current_a"]
    assert samples["voltage_v"].null_count() == 2
    assert ines.get(f"/tests/{test.pk}/traces").status_code == 200


def test_a_vehicle_of_yesterday_out_of_todays_bounds_is_named_not_a_failure(ines, kit):
    Vehicle.objects.update(mass_kg=0.5)
    answer = ines.post("/forecast", {**kit, "legs": [LEG]})
    assert answer.status_code == 422
    assert "mass kg" in answer.json()["fields"]["vehicle_id"]
    assert "correct it in your kit" in answer.json()["fields"]["vehicle_id"]


BODIES = [
    (b"", (422,)),
    (b"{", (400,)),
    (b"\xff\xfe{}", (400,)),
    (b"[]", (422,)),
    (b"null", (422,)),
    (b'"x"', (422,)),
    (b'{"name": ' + b"[" * 200 + b"]" * 200 + b"}", (400,)),
    (b'{"name": "A", "kind": "moped", "mass_kg": 1e400}', (400,)),
    (b'{"name": "A", "kind": "moped", "mass_kg": 1e-300}', (422,)),
    (b'{"name": "A", "kind": "moped", "mass_kg": ' + b"9" * 400 + b"}", (400,)),
    (b'{"name": "A", "kind": "moped", "mass_kg": ' + b"9" * 5000 + b"}", (400,)),
    (b'{"name": "A", "kind": "moped", "mass_kg": NaN}', (400,)),
    (b'{"name": "A", "kind": "moped", "mass_kg": "1 ' + b"k" * 100_000 + b'"}', (422,)),
    (b'{"name": "\\ud800", "kind": "moped"}', (422,)),
    (b'{"name": "A\\u0000", "kind": "moped"}', (422,)),
]


@pytest.mark.parametrize(("body", "codes"), BODIES, ids=range(len(BODIES)))
def test_an_odd_body_is_refused_in_one_sentence(ines, body, codes):
    answer = ines.client.put(f"/api/vehicles/{uuid4()}", body, content_type="application/json")
    assert answer.status_code in codes, answer.content
    found = answer.json()
    assert set(found) == {"code", "message", "fields", "faults"}
    assert len(found["message"]) < 400
    assert not Vehicle.objects.exists()


def test_json_is_read_within_bounds():
    deep = b"[" * MOST_DEPTH + b"]" * MOST_DEPTH
    assert parse_json(deep)
    assert parse_json(b'{"a": "[[[[[' + b"[" * 100 + b'"}')
    with pytest.raises(BodyError, match="nests more than"):
        parse_json(b"[" + deep + b"]")


@pytest.mark.parametrize("year", ["0001-01-01T00:00:00+14:00", "9999-12-31T23:59:59-12:00"])
def test_years_beyond_any_ride_are_refused(ines, kit, year):
    begun = ines.put(f"/tests/{uuid4()}", {"title": "x", "started_at": year, **kit})
    assert begun.status_code == 422
    assert "expected 1970 to 2199" in begun.json()["fields"]["started_at"]
    plan_id = str(uuid4())
    ines.put(f"/plans/{plan_id}", {**kit, "legs": [LEG]})
    asked = ines.client.get(f"/api/plans/{plan_id}/calendar.ics", {"first": year})
    assert asked.status_code == 422
    ridden = ines.put(f"/plans/{plan_id}/ride/{uuid4()}", {"started_at": year})
    assert ridden.status_code == 422


def test_a_form_without_its_boundary_is_told(ines):
    for kind in ("multipart/form-data", "multipart/form-data; boundary=", "multipart/form-data; boundary=\xff"):  # fmt: skip
        answer = ines.client.post("/api/tests/import", b"x", content_type=kind)
        assert answer.status_code in (400, 422), kind
        assert answer.json()["message"]


def test_odd_files_are_refused_not_failed_at(ines):
    newer = io.BytesIO()
    with zipfile.ZipFile(newer, "w") as archive:
        archive.writestr("test.json", "{}")
    data = bytearray(newer.getvalue())
    at = data.find(b"PK\x01\x02")
    data[at + 6] = 99  # "version needed to extract" of the central directory (APPNOTE 4.4.3)
    gpx = b'<?xml version="1.0" encoding="klingon-7"?><gpx version="1.1"><trk/></gpx>'
    for files in ({"ride.zip": bytes(data)}, {"test.json": minimal(), "route.gpx": gpx}):
        answer = ines.import_files(files)
        assert answer.status_code == 422, answer.content
        assert answer.json()["faults"]
    parts = {"id": str(uuid4()), "name": "Way", "file": io.BytesIO(gpx)}
    assert ines.client.post("/api/routes/import", parts).status_code == 422


def test_guesses_once_opened_stay_open_and_closed(ines, kit):
    plan_id, test_id = str(uuid4()), str(uuid4())
    ines.put(f"/plans/{plan_id}", {**kit, "legs": [LEG], "title": "Bets"})
    guess = {"name": "Maren", "distance_m": "9 km"}
    assert ines.put(f"/plans/{plan_id}/guesses/{uuid4()}", guess).status_code == 200
    ines.put(f"/plans/{plan_id}/ride/{test_id}", {"started_at": "2026-05-14T09:00:00Z"})
    late = {"name": "Tobias", "distance_m": "8 km"}
    assert ines.put(f"/plans/{plan_id}/guesses/{uuid4()}", late).status_code == 409
    note(ines, test_id, 5, "start", voltage_rest_v=54.4, trip_m=0)
    note(ines, test_id, 3600, "end", voltage_rest_v=48.2, trip_m="12 mi", charge_ah=6.4)
    ines.put(f"/tests/{test_id}/ending", {"reason": "home"})
    assert ines.get(f"/plans/{plan_id}").json()["opened"] is True
    ines.delete(f"/tests/{test_id}")
    for _ in range(2):
        found = ines.get(f"/plans/{plan_id}").json()
        assert (found["opened"], found["guesses_closed"], found["test_id"]) == (True, True, None)
        assert found["guesses"][0]["distance_m"] == 9000
        assert ines.put(f"/plans/{plan_id}/guesses/{uuid4()}", late).status_code == 409
        # Ridden again, the result of the first ride is still known.
        again = str(uuid4())
        ines.put(f"/plans/{plan_id}/ride/{again}", {"started_at": "2026-05-15T09:00:00Z"})
        ines.delete(f"/tests/{again}")


@pytest.mark.django_db(transaction=True)
class TestTwoAtOnce:
    """Two clients with one id, or one name, at the same moment, on MariaDB."""

    @pytest.fixture
    def pair(self):
        User.objects.create_user("ines", password="a-long-enough-password")
        clients = []
        for _ in range(2):
            client = Client(raise_request_exception=False)
            client.force_login(User.objects.get())
            clients.append(Api(client, None))
        return clients

    def sent(self, pair, path, body):
        return at_once(*(lambda api=api: api.put(path, body).status_code for api in pair))

    def test_one_id_is_one_row(self, pair):
        kit = {"vehicle_id": str(uuid4()), "pack_id": str(uuid4())}
        pack = {"name": "Eider-2", "chemistry": "nmc", "series": 13, "rated_ah": 14}
        assert self.sent(pair, f"/vehicles/{kit['vehicle_id']}", {"name": "Sandpiper", "kind": "bicycle"}) == [200, 200]  # fmt: skip
        assert self.sent(pair, f"/packs/{kit['pack_id']}", pack) == [200, 200]
        ride = {"title": "x", "started_at": "2026-05-14T09:00:00Z", **kit}
        assert self.sent(pair, f"/tests/{uuid4()}", ride) == [200, 200]
        plan_id = uuid4()
        assert self.sent(pair, f"/plans/{plan_id}", {**kit, "legs": [LEG]}) == [200, 200]
        counts = [m.objects.count() for m in (Vehicle, Pack, RangeTest, Plan)]
        assert counts == [1, 1, 1, 1]
        # Two rides begun from one plan: one is begun, the other is told.
        begun = at_once(
            *(
                lambda api=api: (
                    api.put(
                        f"/plans/{plan_id}/ride/{uuid4()}", {"started_at": "2026-05-14T09:00:00Z"}
                    ).status_code
                )
                for api in pair
            )
        )
        assert sorted(begun) == [200, 409]

    def test_one_name_is_one_row(self, pair):
        codes = at_once(
            *(
                lambda api=api: (
                    api.put(f"/vehicles/{uuid4()}", {"name": "Knot", "kind": "moped"}).status_code
                )
                for api in pair
            )
        )
        assert sorted(codes) == [200, 422]
        assert Vehicle.objects.count() == 1

    def test_one_batch_of_samples_is_taken_once(self, pair):
        files = {"test.json": minimal(), "entries.csv": b"time_s,trip_m\n0,0\n900,4000\n"}
        test_id = pair[0].import_files(files).json()["id"]
        stream = f"/tests/{test_id}/streams/{uuid4()}"
        codes = at_once(*(lambda api=api: api.put(stream, {"instrument": "meter"}).status_code for api in pair))  # fmt: skip
        assert codes == [200, 200]
        batch = {"time_s": [1.0, 2.0], "voltage_v": [54.0, 53.9]}
        codes = at_once(*(lambda api=api: api.put(f"{stream}/batches/0", batch).status_code for api in pair))  # fmt: skip
        assert codes == [200, 200]
        assert SampleChunk.objects.count() == 1
        assert RangeTest.objects.get().streams.get().rows == 2

    def test_one_result_is_claimed_once(self, pair):
        files = {"test.json": minimal(), "entries.csv": b"time_s,trip_m\n0,0\n900,4000\n"}
        test_id = pair[0].import_files(files).json()["id"]
        TestResult.objects.all().delete()
        assert sorted(at_once(*(lambda: claim(test_id) for _ in pair))) == [False, True]
        TestResult.objects.update(claimed_until=None)
        assert sorted(at_once(*(lambda: claim(test_id) for _ in pair))) == [False, True]

    def test_an_import_and_a_removal_meet_without_a_failure(self, pair):
        test_id = uuid4()
        files = {"test.json": minimal(), "entries.csv": b"time_s,trip_m\n0,0\n900,4000\n"}
        codes = at_once(
            *(lambda api=api: api.import_files(files, test_id).status_code for api in pair)
        )
        assert codes == [201, 201]
        assert RangeTest.objects.count() == TestResult.objects.count() == 1
        first, second = pair
        codes = at_once(
            lambda: first.delete(f"/tests/{test_id}").status_code,
            lambda: second.get(f"/tests/{test_id}").status_code,
            lambda: note(second, test_id, 60).status_code,
        )
        assert codes[0] == 204
        assert codes[1] in (200, 404)
        assert codes[2] in (201, 404)


@pytest.mark.django_db(transaction=True)
def test_a_database_that_does_not_answer_is_told_as_such(settings):
    client = Client(raise_request_exception=False)
    connection.close()
    kept = connection.settings_dict["PORT"]
    connection.settings_dict["PORT"] = "1"
    try:
        for path in ("/api/session", "/api/tests"):
            client.cookies[settings.SESSION_COOKIE_NAME] = "x" * 32
            answer = client.get(path)
            assert answer.status_code == 503
            assert "database isn’t answering" in answer.json()["message"]
        assert client.get("/healthz").status_code == 200
        assert client.get("/readyz").status_code == 503
    finally:
        connection.close()
        connection.settings_dict["PORT"] = kept
    assert client.get("/readyz").json()["ready"] is True


@pytest.mark.django_db
def test_what_one_has_removed_nobody_else_can_have(ines, tobias, kit, ride):
    plan_id, claim_id, route_id = (str(uuid4()) for _ in range(3))
    ines.put(f"/plans/{plan_id}", {**kit, "legs": [LEG]})
    claim = {"rated_wh": 468, "distance_m": 4e4, "speed_mps": 5, "vehicle_kind": "bicycle"}
    ines.put(f"/claims/{claim_id}", claim)
    ines.put(f"/routes/{route_id}", {"name": "Way", "kind": "legs", "legs": [LEG]})
    for path in (f"/vehicles/{kit['vehicle_id']}", f"/packs/{kit['pack_id']}",
                 f"/riders/{kit['rider_id']}", f"/routes/{route_id}", f"/tests/{ride}",
                 f"/plans/{plan_id}", f"/claims/{claim_id}"):  # fmt: skip
        assert tobias.delete(path).status_code == 404
        assert tobias.post(f"{path}/restore").status_code == 404
        assert ines.post(f"{path}/restore").status_code == 404  # it is not removed
        assert ines.delete(path).status_code == 204
        assert tobias.post(f"{path}/restore").status_code == 404
        assert ines.post(f"{path}/restore").status_code == 204
        assert ines.delete(path).status_code == 204


def test_a_removed_name_is_free_and_what_had_it_waits(ines):
    first, second = str(uuid4()), str(uuid4())
    body = {"name": "Knot", "kind": "moped"}
    ines.put(f"/vehicles/{first}", body)
    ines.delete(f"/vehicles/{first}")
    assert ines.put(f"/vehicles/{second}", body).status_code == 200
    clash = ines.post(f"/vehicles/{first}/restore")
    assert clash.status_code == 409
    assert "rename it first" in clash.json()["message"]
    assert [v["id"] for v in ines.get("/vehicles").json()] == [second]


def test_the_result_of_older_evidence_does_not_replace_a_newer_one(ines, kit, ride):
    from server.results import services as results

    note(ines, ride, 5, "start", voltage_rest_v=54.4, trip_m=0)
    early = RangeTest.objects.get()
    note(ines, ride, 3600, "end", voltage_rest_v=48.2, trip_m="12 mi", charge_ah=6.4)
    ines.get(f"/tests/{ride}")
    newer = TestResult.objects.get()
    # A slow worker comes home with what it had read before the last entry.
    results.keep(early, {"fault": "late"})
    kept = TestResult.objects.get()
    assert (kept.revision, kept.fault) == (newer.revision, "")
