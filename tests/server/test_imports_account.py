"""All of an account as one zip, and back into an empty one."""

import io
import json
import zipfile
from uuid import uuid4

import pytest

from limpet.files import read_files
from limpet.files.archive import files_of_zip
from server.imports.models import Brought
from server.logbook.models import RangeTest, Stream
from server.plans.models import Guess, Plan
from tests.server.letting_in import OF, drop, gpx, log_part, look, take
from tests.server.test_account_page import fill


@pytest.fixture(autouse=True)
def _held_here(settings, tmp_path):
    settings.HELD_FOLDER = tmp_path / "held"


def test_all_of_an_account_comes_back_whole_on_an_empty_one(ines, tobias, kit):
    dropped = drop(
        ines, {"meter.csv": OF["ISO clock in UTC with milliseconds"].data(), "watch.gpx": gpx(700)}
    ).json()
    parts = [log_part(look(ines, dropped)), {"key": 1, "use": "track"}]
    answer = take(
        ines,
        dropped,
        parts,
        vehicle_id=kit["vehicle_id"],
        pack_id=kit["pack_id"],
        rider_id=kit["rider_id"],
    )
    [test_id] = answer.json()["tests"]
    ines.put(
        f"/tests/{test_id}/entries/{uuid4()}",
        {"time_s": 900, "kind": "end", "wall_wh": 80, "note": "=1+1"},
    )
    route = drop(ines, {"watch.gpx": gpx()}).json()
    take(ines, route, [{"key": 0, "use": "route"}])
    loop = {
        "name": "Quay lap",
        "kind": "loop",
        "legs": [{"length_m": 1720, "climb_m": 12}],
        "readings_m": [1718, 1722],
    }
    assert ines.put(f"/routes/{uuid4()}", loop).status_code == 200
    out = b"".join(ines.get("/imports/account.zip").streaming_content)
    back = drop(tobias, {"limpet-account.zip": out}).json()
    assert [(part["what"], part["form"]) for part in back["parts"]] == [("bundle", "account")]
    brought = tobias.post(f"/imports/{back['id']}/account/{uuid4()}")
    assert brought.status_code == 200, brought.content
    for shelf in ("vehicles", "packs", "riders", "routes"):
        mine, theirs = (
            [{k: v for k, v in row.items() if k != "id"} for row in api.get(f"/{shelf}").json()]
            for api in (ines, tobias)
        )
        assert mine == theirs, shelf
    [again] = brought.json()["tests"]
    one, two = (
        api.get(f"/tests/{each}/result.json").json()
        for api, each in ((ines, test_id), (tobias, again))
    )
    assert one["energy"] == two["energy"]
    assert one["consumption"] == two["consumption"]
    mine, theirs = (
        read_files(files_of_zip(api.get(f"/tests/{each}/bundle.zip").content))
        for api, each in ((ines, test_id), (tobias, again))
    )
    assert mine.entries == theirs.entries
    assert mine.samples.equals(theirs.samples)
    assert tobias.get(f"/tests/{again}").json()["vehicle_id"] is not None
    called = [
        set(Stream.objects.filter(test=each).values_list("instrument", flat=True))
        for each in (test_id, again)
    ]
    assert called[0] == called[1] == {"meter", "watch"}
    # Into an account that has such a vehicle already nothing of it comes.
    twice = drop(ines, {"limpet-account.zip": out}).json()
    before = RangeTest.objects.count()
    assert ines.post(f"/imports/{twice['id']}/account/{uuid4()}").status_code == 409
    assert RangeTest.objects.count() == before
    # Undone, its tests are gone.
    assert tobias.post(f"/imports/{brought.json()['id']}/undo").status_code == 204
    assert tobias.get(f"/tests/{again}").status_code == 404


@pytest.mark.parametrize(
    ("about", "said"),
    [
        (b"{}", "another version"),
        (b'{"limpet_account": 1, "tests": ["/etc"]}', "folders"),
        (b'{"limpet_account": 1, "vehicles": [{"name": "x", "kind": "boat"}]}', "vehicles 1"),
        (b'{"limpet_account": 1, "routes": [{"gpx": "no.gpx", "name": "x"}]}', "not in the zip"),
        (b'{"limpet_account": 1, "tests": ["tests/1"]}', "test.json"),
    ],
)
def test_an_accounts_zip_that_is_odd_is_refused_and_changes_nothing(ines, about, said):
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w") as archive:
        archive.writestr("account.json", about)
    back = drop(ines, {"a.zip": buffer.getvalue()}).json()
    answer = ines.post(f"/imports/{back['id']}/account/{uuid4()}")
    assert answer.status_code == 422
    assert said in json.dumps(answer.json())
    assert not Brought.objects.exists()


def without_ids(value):
    """A document without ids and moments of its making, which are another account's own."""
    if isinstance(value, dict):
        kept = {k: v for k, v in value.items() if k not in ("id", "changed_at", "core")}
        return {k: without_ids(v) for k, v in kept.items() if not k.endswith("_id")}
    return [without_ids(item) for item in value] if isinstance(value, list) else value


def brought_over(ines, tobias):
    """All of one account in another, by its zip."""
    out = b"".join(ines.get("/imports/account.zip").streaming_content)
    back = drop(tobias, {"limpet-account.zip": out}).json()
    answer = tobias.post(f"/imports/{back['id']}/account/{uuid4()}")
    assert answer.status_code == 200, answer.content
    return answer.json()


def names_of(api, shelf):
    return {row["id"]: row["name"] for row in api.get(f"/{shelf}").json()}


def test_plans_trips_claims_and_ways_come_back_too(ines, tobias):
    fill(ines)
    [ridden] = ines.get("/plans").json()
    start = {"started_at": "2026-05-20T09:12:00+02:00"}
    of_plan = str(uuid4())
    assert ines.put(f"/plans/{ridden['id']}/ride/{of_plan}", start).status_code == 200
    brought = brought_over(ines, tobias)
    for path in ("/trips", "/claims", "/assumptions", "/imports/home"):
        assert without_ids(tobias.get(path).json()) == without_ids(ines.get(path).json()), path
    assert tobias.get("/session").json()["units"] == ines.get("/session").json()["units"]
    [came] = tobias.get("/plans").json()
    one = ines.get(f"/plans/{ridden['id']}").json()
    two = tobias.get(f"/plans/{came['id']}").json()
    assert without_ids(one) == without_ids(two)
    assert one["answer"] == two["answer"], "as it was told when it was planned"
    # What it names is what it named, in the account that it is in now.
    for shelf, key in (("vehicles", "vehicle_id"), ("packs", "pack_id"), ("riders", "rider_id")):
        mine, theirs = names_of(ines, shelf), names_of(tobias, shelf)
        assert theirs[two["asked"][key]] == mine[one["asked"][key]]
        assert two["asked"][key] not in mine
    assert two["test_id"] in brought["tests"]
    assert two["test_id"] != of_plan
    sealed = Guess.objects.order_by("sealed_at").values_list("sealed_at", flat=True)
    assert len(sealed) == 2
    assert sealed[0] == sealed[1]
    begun = Plan.objects.values_list("begun_at", flat=True)
    assert begun[0] == begun[1] is not None
    called = [
        sorted(Stream.objects.filter(test__owner=api.user).values_list("instrument", flat=True))
        for api in (ines, tobias)
    ]
    assert called[0] == called[1] != []
    # What was under way still is, what had ended has.
    states = [
        {r["title"]: r["state"] for r in api.get("/tests").json()["items"]}
        for api in (ines, tobias)
    ]
    assert states[0] == states[1]
    assert sorted(states[0].values()) == ["ended", "riding"]


def zip_of(files):
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w") as archive:
        for name, document in files.items():
            archive.writestr(name, json.dumps(document))
    return buffer.getvalue()


@pytest.mark.parametrize(
    ("about", "plan", "said"),
    [
        ({"plans": ["plans/1.json"]}, None, "not in the zip"),
        ({"plans": ["plans/1.json"]}, [], "must be an object"),
        ({"plans": ["plans/1.json"]}, {"asked": {}}, "vehicle_id"),
        ({"plans": ["plans/1.json"]}, {"asked": 7, "guesses": 7}, "asked"),
        ({"trips": [{"name": "x"}]}, None, "trips 1: asked"),
        ({"claims": [{"name": "x", "rated_wh": -1}]}, None, "claims 1"),
        ({"units": {"distance": "furlongs"}}, None, "units"),
        ({"home": {"latitude_deg": 100}}, None, "home"),
        ({"assumptions": [{"name": "nothing such", "value": 1, "std": 0}]}, None, "assumptions 1"),
        ({"plans": 7}, None, "plans must be a list"),
    ],
)  # fmt: skip
def test_an_odd_plan_or_way_of_a_zip_is_refused(ines, about, plan, said):
    files = {"account.json": {"limpet_account": 1, **about}}
    if plan is not None:
        files["plans/1.json"] = plan
    back = drop(ines, {"a.zip": zip_of(files)}).json()
    answer = ines.post(f"/imports/{back['id']}/account/{uuid4()}")
    assert answer.status_code == 422, answer.content
    assert said in json.dumps(answer.json())
    assert not Brought.objects.exists()


def test_a_plan_of_a_zip_points_at_no_test_outside_of_it(ines, tobias):
    fill(ines)
    [theirs] = RangeTest.objects.filter(owner=ines.user)
    vehicle, pack = ({"name": "x", "kind": "bicycle"}, {"name": "y", "chemistry": "nmc", "series": 10, "rated_ah": 10})  # fmt: skip
    asked = {"vehicle_id": "vehicles:0", "pack_id": "packs:0", "legs": [{"length_m": 5000}]}
    files = {
        "account.json": {
            "limpet_account": 1, "vehicles": [vehicle], "packs": [pack], "plans": ["plans/1.json"],
        },
        "plans/1.json": {"title": "t", "asked": asked, "answer": {"odd": 1}, "test": str(theirs.pk)},
    }  # fmt: skip
    back = drop(tobias, {"a.zip": zip_of(files)}).json()
    assert tobias.post(f"/imports/{back['id']}/account/{uuid4()}").status_code == 200
    [row] = tobias.get("/plans").json()
    found = tobias.get(f"/plans/{row['id']}").json()
    assert found["test_id"] is None
    # An answer that is none of today's is said to be unreadable, and breaks no page.
    assert found["trouble"]
