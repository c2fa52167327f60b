"""A vehicle's road load out of its own tests, for forecasts that nobody asked to fit."""

from __future__ import annotations

from dataclasses import replace
from functools import partial

import pytest

from demo.skerrow import ridden
from limpet.files import bundle_files
from limpet.history import informed, learn, learn_trip, road_of
from limpet.outlook.forecast import forecast
from limpet.tell import analyse
from limpet.trip import MOST_FIT_TESTS, SpeedSpec, TripVehicle
from limpet.under_way import follow
from tests.trips import routed, trip

LOGGED, SUMS = "sandpiper-lighthouse", "sandpiper-quay-gentle"


def pairs(*slugs):
    return [(ridden(slug), partial(analyse, ridden(slug))) for slug in slugs]


def never():
    raise AssertionError("a result that tells nothing was computed")


def what(name="Sandpiper"):
    return trip(
        vehicle=TripVehicle(kind="bicycle", name=name),
        speed=SpeedSpec(policy="fixed", target_mps=5.3),
    )


def test_logged_rides_tell_it_and_each_that_cannot_says_why():
    both = road_of("bicycle", pairs(LOGGED, SUMS))
    assert both.used == ("Lighthouse road, twice there and back", "Quay loop, ridden gently")
    alone = road_of("bicycle", pairs(LOGGED, SUMS), logged_only=True)
    assert alone.used == ("Lighthouse road, twice there and back",)
    assert alone.left_out == ("Quay loop, ridden gently: it has no samples",)
    assert alone.found.fit.titles == alone.used
    none = road_of("bicycle", pairs(SUMS), logged_only=True)
    assert none.found is None
    assert "it has no samples" in none.why
    # What a ride of sums came to is not even asked for.
    assert road_of("bicycle", [(ridden(SUMS), never)], logged_only=True).found is None
    assert road_of("bicycle", []).why == "it has no ended test yet"


def test_no_more_tests_are_read_than_a_fit_names():
    read = []

    def many():
        for pair in pairs(SUMS) * (MOST_FIT_TESTS + 5):
            read.append(pair)
            yield pair

    assert len(road_of("bicycle", many()).used) == MOST_FIT_TESTS == len(read)


def test_a_forecast_takes_it_names_it_and_is_surer():
    tests = [ridden(LOGGED), ridden(SUMS), ridden("turnstone-frost")]
    told = informed(what(), learn_trip(tests, what()))
    # It knows more than what some rides took.
    assert told.known_consumption_wh_per_km is None
    answers = [forecast(*routed(replace(t, draws=300)), swings=False) for t in (what(), told)]
    sources = {item.name: item.source for item in answers[1].inputs}
    assert sources["crr"] == "vehicle fit of 1 test: Lighthouse road, twice there and back"
    before, after = (a.wh_per_km for a in answers)
    assert (after.high - after.low) / after.value < 0.85 * (before.high - before.low) / before.value
    assert learn_trip(tests, what("Knot")).road is None
    assert learn_trip(tests, what()).without("road").road is None
    # A fit that is stated stays.
    own = replace(what(), vehicle=replace(what().vehicle, fit=told.vehicle.fit))
    other = replace(told.vehicle.fit, values=tuple(2 * v for v in told.vehicle.fit.values))
    stated = replace(own, vehicle=replace(own.vehicle, fit=other))
    assert informed(stated, learn_trip(tests, stated)).vehicle.fit == other


def test_a_ride_under_way_takes_it_too():
    now = ridden("sandpiper-worn-twin")
    priors = learn([ridden(LOGGED)], now, road=True)
    assert priors.road is not None
    assert learn([ridden(LOGGED)], now).road is None
    found = follow(now, until_s=now.entries[2].time_s, priors=priors)
    sources = {item.name: item.source for item in found.inputs}
    assert "Lighthouse road" in sources["consumption"]
    assert sources["consumption"].startswith("road model, fitted to 1 test")


def test_the_command_forecasts_with_it(tmp_path, capsys):
    import json

    from limpet.cli import main

    (tmp_path / "tests" / "one").mkdir(parents=True)
    for file, data in bundle_files(ridden(LOGGED)).items():
        (tmp_path / "tests" / "one" / file).write_bytes(data)
    asked = {
        "trip": 1, "vehicle": {"kind": "bicycle", "name": "Sandpiper"},
        "pack": {"chemistry": "nmc", "series": 13, "rated_ah": 14},
        "route": {"legs": [{"length_m": 9000}]},
    }  # fmt: skip
    (tmp_path / "trip.json").write_text(json.dumps(asked))
    command = ["forecast", str(tmp_path / "trip.json"), "--with", str(tmp_path / "tests"), "--json"]
    assert main(command) == 0
    inputs = json.loads(capsys.readouterr().out)["inputs"]
    assert {i["name"]: i["source"] for i in inputs}["crr"].startswith("vehicle fit of 1 test: ")


@pytest.mark.parametrize("kind", ["bicycle", "skateboard"])
def test_the_kind_gives_what_the_rides_cannot_tell(kind):
    found = road_of(kind, pairs(LOGGED)).found
    assert len(found.told) == len(found.fit.names) == 4
