"""What a vehicle's and a pack's earlier tests teach the results of later ones, on the page unasked."""

from __future__ import annotations

from dataclasses import asdict
from uuid import uuid4

import pytest

from demo.skerrow import ridden
from limpet.files import write_zip
from limpet.history import facts_of
from limpet.tell import analyse
from limpet.under_way import advise
from server.kit.models import Vehicle
from server.logbook.models import RangeTest
from server.logbook.rows import core_test
from server.plans import fits
from server.results import worker
from server.results.models import TestResult
from server.wire.stored import unwrapped
from tests.server.conftest import note


@pytest.fixture
def shed(ines):
    """Ines's Turnstone and Sandpiper with their packs, by name."""
    ids = {name: str(uuid4()) for name in ("Turnstone", "Sandpiper", "Eider-1", "Eider-2")}
    for name in ("Turnstone", "Sandpiper"):
        body = {"name": name, "kind": "kick_scooter", "mass_kg": 16}
        assert ines.put(f"/vehicles/{ids[name]}", body).status_code == 200
    for name in ("Eider-1", "Eider-2"):
        body = {"name": name, "chemistry": "nmc", "series": 10, "rated_ah": 12.5}
        assert ines.put(f"/packs/{ids[name]}", body).status_code == 200
    return ids


def bring(api, slug):
    """Import one of the island's rides; gives its id."""
    return api.import_files({"ride.zip": write_zip(ridden(slug))}).json()["id"]


def sources(api, test_id):
    worker.look_once()
    inputs = api.get(f"/tests/{test_id}").json()["result"]["inputs"]
    return {item["name"]: item["source"] for item in inputs}


def taught(api, test_id):
    return {name for name, source in sources(api, test_id).items() if source.startswith("learned")}


def test_an_earlier_test_teaches_a_later_one_and_is_named(ines, shed):
    bring(ines, "turnstone-quay-cutoff")
    later = bring(ines, "turnstone-bars")
    assert sources(ines, later)["trip"] == "learned: Quay loop, to cut-off"
    found = ines.get(f"/tests/{later}").json()["result"]
    # The generator rode 18.93 km; the trip meter runs 6% fast.
    assert found["distance"]["low"] < 18_930 < found["distance"]["high"]
    assert found["distance"]["value"] == pytest.approx(18_930, rel=0.01)


def test_a_packs_own_curve_reaches_a_ride_that_has_volts_alone(ines, shed):
    bring(ines, "turnstone-quay-cutoff")
    later = bring(ines, "turnstone-claim")
    worker.look_once()
    methods = ines.get(f"/tests/{later}").json()["result"]["energy_methods"]
    (note,) = [item["note"] for item in methods if item["method"] == "rest_voltage"]
    assert note.endswith("The curve is this pack’s own, learned: Quay loop, to cut-off.")


def test_the_order_of_coming_in_does_not_matter_only_that_of_riding(ines, shed):
    later = bring(ines, "turnstone-bars")
    assert taught(ines, later) == set()
    earlier = bring(ines, "turnstone-quay-cutoff")
    assert "trip" in taught(ines, later)
    assert taught(ines, earlier) == set()


def test_a_test_that_goes_takes_its_lessons_with_it_and_brings_them_back(ines, shed):
    earlier, later = bring(ines, "turnstone-quay-cutoff"), bring(ines, "turnstone-bars")
    assert "trip" in taught(ines, later)
    ines.delete(f"/tests/{earlier}")
    assert taught(ines, later) == set()
    assert ines.post(f"/tests/{earlier}/restore", {}).status_code == 204
    assert "trip" in taught(ines, later)


def test_a_corrected_entry_changes_what_is_taught(ines, shed):
    earlier, later = bring(ines, "turnstone-quay-cutoff"), bring(ines, "turnstone-bars")
    assert "trip" in taught(ines, later)
    for entry in ines.get(f"/tests/{earlier}").json()["entries"][1:]:
        if entry["trip_m"] is not None:
            gone = ines.delete(f"/tests/{earlier}/entries/{entry['id']}")
            assert gone.status_code == 200
    # One entry is left, which says nothing of the trip meter.
    assert "trip" not in taught(ines, later)


def test_what_a_test_teaches_is_its_own_evidence_alone(ines, shed):
    bring(ines, "turnstone-quay-cutoff")
    later = bring(ines, "turnstone-bars")
    assert "trip" in taught(ines, later)
    alone = facts_of(ridden("turnstone-bars"), analyse(ridden("turnstone-bars")))
    kept = unwrapped(TestResult.objects.get(test_id=later).facts)
    assert kept["inputs"] == {name: list(pair) for name, pair in asdict(alone)["inputs"].items()}
    assert kept["wh_per_km"] == pytest.approx(list(alone.wh_per_km))


def test_a_vehicle_that_is_not_to_learn_is_taken_as_assumed(ines, shed):
    bring(ines, "turnstone-quay-cutoff")
    later = bring(ines, "turnstone-bars")
    assert "trip" in taught(ines, later)
    answer = ines.delete(f"/vehicles/{shed['Turnstone']}/fit").json()
    assert (answer["learns"], answer["fit"]) == (False, None)
    assert taught(ines, later) == set()
    trip = {
        "vehicle_id": shed["Turnstone"], "pack_id": shed["Eider-1"], "rider_id": None,
        "legs": [{"length_m": 5000}], "quick": True,
    }  # fmt: skip
    told = {item["source"] for item in ines.post("/forecast", trip).json()["inputs"]}
    assert not any("Quay loop" in source for source in told)
    # Asked for again, it learns again, even where no road load can be found yet.
    ines.put(f"/vehicles/{shed['Turnstone']}/fit", {})
    assert "trip" in taught(ines, later)
    told = {item["source"] for item in ines.post("/forecast", trip).json()["inputs"]}
    assert any("Quay loop" in source for source in told)


def test_another_vehicle_and_another_account_teach_nothing(ines, tobias, shed):
    bring(tobias, "turnstone-quay-cutoff")
    bring(ines, "sandpiper-quay-gentle")
    assert taught(ines, bring(ines, "turnstone-bars")) == set()


def test_a_logged_ride_tells_the_road_load_by_itself_and_sums_do_not(ines, shed):
    bring(ines, "sandpiper-quay-gentle")
    worker.look_once()
    assert Vehicle.objects.get(pk=shed["Sandpiper"]).fit is None
    logged = bring(ines, "sandpiper-lighthouse")
    worker.look_once()
    vehicle = next(v for v in ines.get("/vehicles").json() if v["id"] == shed["Sandpiper"])
    assert vehicle["fit"]["tests"] == ["Lighthouse road, twice there and back"]
    assert vehicle["fit"]["left_out"] == ["Quay loop, ridden gently: it has no samples"]
    assert not Vehicle.objects.get(pk=shed["Sandpiper"]).fit_due
    # Without the ride nothing new is found, and what was found stays until it is switched off.
    ines.delete(f"/tests/{logged}")
    assert Vehicle.objects.get(pk=shed["Sandpiper"]).fit_due
    ines.delete(f"/vehicles/{shed['Sandpiper']}/fit")
    ines.post(f"/tests/{logged}/restore", {})
    worker.look_once()
    assert Vehicle.objects.get(pk=shed["Sandpiper"]).fit is None


def test_a_test_alone_is_computed_once(ines, shed):
    bring(ines, "turnstone-bars")
    assert worker.compute_due() == 0
    bring(ines, "turnstone-quay-cutoff")
    # The later one is due, for what the earlier teaches; the earlier is not.
    assert worker.compute_due() == 1
    assert RangeTest.objects.count() == 2


def test_a_fit_that_comes_after_the_switch_is_not_kept(ines, shed):
    bring(ines, "sandpiper-lighthouse")
    vehicle = Vehicle.objects.get(pk=shed["Sandpiper"])
    found = fits._road(vehicle)
    assert found.found is not None
    ines.delete(f"/vehicles/{shed['Sandpiper']}/fit")
    fits._kept(vehicle, found)
    assert Vehicle.objects.get(pk=shed["Sandpiper"]).fit is None


def test_a_vehicle_that_cannot_be_fitted_stops_nobody(ines, shed):
    bring(ines, "sandpiper-lighthouse")
    bring(ines, "turnstone-frost")
    # A kind that no version knew.
    Vehicle.objects.filter(pk=shed["Sandpiper"]).update(kind="hovercraft")
    worker.look_once()
    assert Vehicle.objects.get(pk=shed["Sandpiper"]).fit is None
    assert Vehicle.objects.get(pk=shed["Turnstone"]).fit is not None


def test_a_gauge_is_told_over_all_tests_before(ines, shed):
    bring(ines, "turnstone-quay-cutoff")
    later = bring(ines, "turnstone-bars")
    assert taught(ines, later)
    found = ines.get(f"/tests/{later}").json()["result"]
    assert found["gauge_pooled"][0]["tests"] == ["Quay loop, to cut-off"]
    assert found["gauge_habits"]["upper_m_per_percent"] > 0


def test_what_earlier_tests_taught_is_used_on_the_way(ines, shed):
    bring(ines, "turnstone-quay-cutoff")
    worker.look_once()
    ride = str(uuid4())
    kit = {"vehicle_id": shed["Turnstone"], "pack_id": shed["Eider-1"]}
    begun = {"title": "Out again", "started_at": "2026-11-20T09:00:00+00:00", **kit}
    assert ines.put(f"/tests/{ride}", begun).status_code == 200
    note(ines, ride, 0, "start", voltage_rest_v=41.9, trip_m=0)
    note(ines, ride, 1200, trip_m=6000)
    answer = ines.get(f"/tests/{ride}/follow?table=true").json()
    told = answer["distance"]
    alone = advise(core_test(RangeTest.objects.get(pk=ride))).following.distance
    # Its trip meter counts 6% long, as the earlier test showed: known better, and less of it.
    assert told["value"] < 0.97 * alone.value
    assert told["high"] - told["low"] < 0.8 * (alone.high - alone.low)
    # A device reads the display as it is.
    (base,) = answer["table"]["bases"]
    assert (base["shown"], base["at_m"]) == (6000.0, pytest.approx(told["value"], rel=1e-3))


def test_a_page_that_is_opened_before_the_worker_looked_shows_what_was_learned_since(ines, shed):
    later = bring(ines, "turnstone-bars")
    assert not taught(ines, later)
    bring(ines, "turnstone-quay-cutoff")
    assert TestResult.objects.get(test_id=later).lessons_due
    inputs = ines.get(f"/tests/{later}").json()["result"]["inputs"]
    assert any(item["source"].startswith("learned") for item in inputs)
    assert not TestResult.objects.get(test_id=later).lessons_due
