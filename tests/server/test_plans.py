"""Planning over HTTP: forecasts, plans, sealed guesses, rides begun from plans, claims, sizes."""

from __future__ import annotations

import json
import threading
from datetime import date
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from math import log
from uuid import uuid4

import pytest
from icalendar import Calendar

from limpet.cli import main
from server.plans.models import Guess, Plan
from server.plans.weather import WeatherError, WeatherSource
from standins import weather

LEG = {"length_m": "6 km", "climb_m": 40, "bearing_deg": 90, "stops": 3}


@pytest.fixture
def trip(kit):
    """A trip with Ines's kit, there and back."""
    return {
        **kit,
        "legs": [LEG],
        "and_back": True,
        "policy": "fixed",
        "target_mps": "20 km/h",
        "temp_c": "8 °C",
        "wind_mps": 3,
        "wind_from_deg": 250,
        "reserve": 0.2,
    }


@pytest.fixture
def plan(ines, trip):
    """A plan of Ines's, by id."""
    plan_id = str(uuid4())
    body = {**trip, "title": "Over the hill", "purpose": "commute", "end_rule": "route_end"}
    assert ines.put(f"/plans/{plan_id}", body).status_code == 200
    return plan_id


def test_the_screen_and_the_command_line_forecast_the_same(ines, trip, tmp_path, capsys):
    answer = ines.post("/forecast", trip).json()
    file = {
        "vehicle": {"kind": "bicycle", "name": "Sandpiper", "mass_kg": 84 * 0.45359237},
        "pack": {"chemistry": "nmc", "series": 13, "rated_ah": 14, "full_v": 54.6, "cutoff_v": 39},
        "rider": {"mass_kg": 64, "gear_kg": 4},
        "conditions": {"temp_c": 8, "wind_mps": 3, "wind_from_deg": 250},
        "route": {"legs": [{**LEG, "length_m": 6000}], "and_back": True},
        "speed": {"policy": "fixed", "target_mps": 20 / 3.6},
        "reserve": 0.2,
    }
    (tmp_path / "trip.json").write_text(json.dumps(file))
    assert main(["forecast", str(tmp_path / "trip.json"), "--json"]) == 0
    printed = json.loads(capsys.readouterr().out)
    for name in ("range_to_cutoff", "range_to_reserve"):
        assert answer[name]["value"] == pytest.approx(printed[name]["value"], rel=1e-9)
        assert answer[name]["low"] == pytest.approx(printed[name]["low"], rel=1e-9)
    assert answer["route"]["arrives_probability"] == printed["route"]["arrives_probability"]
    assert answer["sensitivity"][0]["from"] == pytest.approx(printed["sensitivity"][0]["from"])


def test_a_slider_asks_for_less_and_gets_near_the_same(ines, trip):
    full = ines.post("/forecast", trip).json()
    quick = ines.post("/forecast", {**trip, "quick": True}).json()
    assert quick["sensitivity"] == []
    value = full["range_to_cutoff"]["value"]
    assert quick["range_to_cutoff"]["value"] == pytest.approx(value, rel=0.01)
    heavier = ines.post("/forecast", {**trip, "quick": True, "extra_load_kg": "60 lb"}).json()
    assert heavier["range_to_cutoff"]["value"] < quick["range_to_cutoff"]["value"]


@pytest.mark.parametrize(
    ("change", "field", "words"),
    [
        ({"wind_mps": "80 m/s"}, "wind_mps", "takes 0 to 89.48 mph"),
        ({"legs": []}, "route_id", "choose a route, or give a leg"),
        ({"legs": [{"length_m": 0}]}, "legs.0.length_m", "takes above 0 to 1,243 mi"),
        ({"legs": [{"length_m": 100, "climb_m": 90}]}, "legs", "which no road does"),
        ({"vehicle_id": str(uuid4())}, "vehicle_id", "is not in your kit"),
        ({"route_id": str(uuid4())}, "route_id", "is not in your kit"),
        ({"temp_c": "200 °C"}, "temp_c", "takes -40 to 50 °C"),
        ({"speed": 3}, "speed", ""),
    ],
)
def test_a_trip_that_cannot_be_is_refused_beside_its_field(ines, trip, change, field, words):
    answer = ines.post("/forecast", {**trip, **change})
    assert answer.status_code == 422
    assert words in answer.json()["fields"][field]


def test_a_plan_is_kept_as_typed_with_what_it_came_to(ines, plan):
    stored = ines.get(f"/plans/{plan}").json()
    assert stored["title"] == "Over the hill"
    assert stored["asked"]["target_mps"] == pytest.approx(20 / 3.6)
    answer = stored["answer"]
    assert answer["rules"]["question"].startswith("Will this pack")
    assert answer["forecast"]["route"]["distance_m"] == pytest.approx(12_000)
    assert len(answer["schedule"]["entries"]) == 6
    assert [row["id"] for row in ines.get("/plans").json()] == [plan]


def test_a_plan_sent_twice_changes_nothing_and_a_changed_one_is_changed(ines, trip, plan):
    body = {**trip, "title": "Over the hill", "purpose": "commute", "end_rule": "route_end"}
    ines.put(f"/plans/{plan}", body)
    assert Plan.objects.count() == 1
    ines.put(f"/plans/{plan}", {**body, "title": "Twice over"})
    assert ines.get(f"/plans/{plan}").json()["title"] == "Twice over"


def test_nobody_sees_or_touches_another_accounts_plan(tobias, nobody, plan, trip):
    assert tobias.get(f"/plans/{plan}").status_code == 404
    assert tobias.get("/plans").json() == []
    assert tobias.delete(f"/plans/{plan}").status_code == 404
    assert tobias.put(f"/plans/{plan}/checklist", {"ticked": []}).status_code == 404
    assert tobias.get(f"/plans/{plan}/calendar.ics?first=2026-05-14T09:00:00Z").status_code == 404
    assert nobody.get("/plans").status_code == 401
    assert nobody.post("/forecast", trip).status_code == 401
    # Another's kit is not in the list either.
    assert tobias.post("/forecast", trip).json()["fields"]["vehicle_id"].startswith("is not in")


def test_the_checklist_remembers_what_it_knows(ines, plan):
    items = ines.get(f"/plans/{plan}").json()["answer"]["checklist"]
    ticked = ines.put(f"/plans/{plan}/checklist", {"ticked": [items[2], "not on it"]}).json()
    assert ticked["ticked"] == [items[2]]
    assert ines.get(f"/plans/{plan}").json()["ticked"] == [items[2]]


def seal(api, plan, name, far, guess_id=None):
    return api.put(
        f"/plans/{plan}/guesses/{guess_id or uuid4()}", {"name": name, "distance_m": far}
    )


def test_a_guess_stays_sealed_until_the_end_and_is_then_ranked(ines, plan):
    guess_id = str(uuid4())
    assert seal(ines, plan, "Maren", "30 km", guess_id).status_code == 200
    seal(ines, plan, "Tobias", "55 km")
    shown = ines.get(f"/plans/{plan}").json()
    assert shown["opened"] is False
    assert [guess["distance_m"] for guess in shown["guesses"]] == [None, None]
    # Sent again it changes nothing; changed, or a second one of the same name, it is refused.
    assert seal(ines, plan, "Maren", "30 km", guess_id).status_code == 200
    changed = seal(ines, plan, "Maren", "31 km", guess_id)
    assert (changed.status_code, changed.json()["message"]) == (
        409,
        "That guess is sealed and cannot be changed.",
    )
    assert "has guessed already" in seal(ines, plan, "Maren", "40 km").json()["fields"]["name"]
    assert Guess.objects.count() == 2
    test_id = str(uuid4())
    ines.put(f"/plans/{plan}/ride/{test_id}", {"started_at": "2026-05-14T09:00:00+02:00"})
    late = seal(ines, plan, "Ines", "44 km")
    assert (late.status_code, late.json()["message"]) == (
        409,
        "The ride has begun, so guesses are closed.",
    )
    for entry in (
        {"time_s": 0, "kind": "start", "trip_m": 0, "voltage_rest_v": 54.4, "charge_ah": 0},
        {
            "time_s": 2400,
            "kind": "end",
            "trip_m": "12 km",
            "voltage_rest_v": 51.0,
            "charge_ah": 3.0,
        },
    ):
        ines.put(f"/tests/{test_id}/entries/{uuid4()}", entry)
    assert ines.get(f"/tests/{test_id}/plan").json()["opened"] is False
    assert ines.get("/plans/wagers").json() == []
    ines.put(f"/tests/{test_id}/ending", {"reason": "home"})
    opened = ines.get(f"/tests/{test_id}/plan").json()
    assert opened["opened"] is True
    fact = ines.get(f"/tests/{test_id}").json()["result"]["range_to_cutoff"]["value"]
    by_name = {guess["name"]: guess for guess in opened["guesses"]}
    assert by_name["Tobias"]["off_m"] == pytest.approx(55_000 - fact)
    nearer = min(by_name.values(), key=lambda guess: abs(guess["off_m"]))
    assert nearer["place"] == 1
    # Over all rides: the nearest in proportion first, the forecast among them.
    table = ines.get("/plans/wagers").json()
    assert {one["name"] for one in table} == {"Maren", "Tobias", "the forecast"}
    scores = {one["name"]: one["score"] for one in table}
    assert scores["Maren"] == pytest.approx(abs(log(30_000 / fact)))
    assert [one["score"] for one in table] == sorted(scores.values())
    assert [one["is_forecast"] for one in table if one["name"] == "the forecast"] == [True]


def test_a_ride_begun_from_a_plan_carries_everything_over(ines, plan, kit):
    test_id = str(uuid4())
    start = {"started_at": "2026-05-14T09:00:00+02:00"}
    begun = ines.put(f"/plans/{plan}/ride/{test_id}", start)
    assert begun.status_code == 200
    assert begun.json()["title"] == "Over the hill"
    again = ines.put(f"/plans/{plan}/ride/{test_id}", start)
    assert again.json()["id"] == test_id
    other = ines.put(f"/plans/{plan}/ride/{uuid4()}", start)
    assert other.status_code == 409
    from server.logbook.models import RangeTest

    sheet = RangeTest.objects.get(pk=test_id).sheet
    assert sheet["protocol"]["target_speed_mps"] == pytest.approx(20 / 3.6)
    assert sheet["protocol"]["reserve"] == 0.2
    assert sheet["conditions"]["wind_from_deg"] == 250
    assert sheet["vehicle"]["mass_kg"] == pytest.approx(38.1, abs=0.01)
    assert ines.get(f"/tests/{test_id}/plan").json()["id"] == plan
    # What was planned stays what was planned.
    changed = ines.put(f"/plans/{plan}", {**kit, "legs": [LEG], "title": "Other"})
    assert "is being ridden already" in changed.json()["message"]


def test_a_ride_planned_on_a_measured_loop_counts_its_laps_as_surely_as_it_was_measured(ines, trip):
    route = str(uuid4())
    loop = {
        "name": "Quay loop", "kind": "loop", "readings_m": [1790, 1800, 1810],
        "legs": [{"length_m": 1800, "surface": "gravel", "stops": 1}],
    }  # fmt: skip
    measured = ines.put(f"/routes/{route}", loop).json()
    plan_id, test_id = str(uuid4()), str(uuid4())
    asked = {name: value for name, value in trip.items() if name not in ("legs", "and_back")}
    body = {**asked, "route_id": route, "title": "Round", "purpose": "floor"}
    assert ines.put(f"/plans/{plan_id}", body).status_code == 200
    start = {"started_at": "2026-05-14T09:00:00+02:00", "charge": "just_charged"}
    assert ines.put(f"/plans/{plan_id}/ride/{test_id}", start).status_code == 200
    from server.logbook.models import RangeTest

    sheet = RangeTest.objects.get(pk=test_id).sheet
    lap = sheet["instruments"]["lap"]
    assert lap["length_m"] == pytest.approx(measured["length_m"])
    # A maker's ± is √3 of the standard uncertainty (GUM 4.3.7).
    ratio = measured["length_std_m"] / measured["length_m"]
    assert lap["accuracy_pct"] == pytest.approx(100 * 3**0.5 * ratio)
    assert sheet["conditions"]["surface"] == "gravel"
    assert sheet["start"]["just_charged"] is True


def test_a_test_that_nobody_planned_has_no_plan(ines, ride):
    answer = ines.get(f"/tests/{ride}/plan")
    assert (answer.status_code, answer.json()) == (200, None)


def test_the_calendar_file_holds_the_days(ines, trip):
    plan_id = str(uuid4())
    body = {**trip, "title": "Seasons", "purpose": "temperature", "runs": 1}
    ines.put(f"/plans/{plan_id}", body)
    answer = ines.get(f"/plans/{plan_id}/calendar.ics?first=2026-05-14T09:00:00%2B02:00")
    assert answer["Content-Type"].startswith("text/calendar")
    events = Calendar.from_ical(answer.content).walk("VEVENT")
    assert [str(event["SUMMARY"]) for event in events] == ["Seasons: warm", "Seasons: cold"]
    naive = ines.get(f"/plans/{plan_id}/calendar.ics?first=2026-05-14T09:00:00")
    assert naive.status_code == 422
    assert "has no zone" in naive.json()["message"]


CLAIM = {
    "name": "A flyer", "rated_wh": "468 Wh", "distance_m": "120 km", "speed_mps": "25 km/h",
    "load_kg": "75 kg", "vehicle_kind": "kick_scooter", "vehicle_mass_kg": 15,
}  # fmt: skip


def test_a_claim_is_judged_and_kept(ines, tobias):
    verdict = ines.post("/claims/check", CLAIM).json()
    assert verdict["verdict"] == "not_possible"
    assert "It would take" in verdict["notice"]["message"]
    claim_id = str(uuid4())
    ines.put(f"/claims/{claim_id}", CLAIM)
    assert ines.get("/claims").json()[0]["answer"] == verdict
    assert tobias.get("/claims").json() == []
    again = ines.put(f"/claims/{uuid4()}", CLAIM)
    assert "is saved already" in again.json()["fields"]["name"]
    missing = ines.post("/claims/check", {**CLAIM, "rated_wh": ""})
    assert "is needed" in missing.json()["fields"]["rated_wh"]
    assert ines.delete(f"/claims/{claim_id}").status_code == 204


CELL = {
    "capacity_ah": "3.4 Ah", "nominal_v": 3.6, "max_current_a": 8, "resistance_ohm": "30 mΩ",
    "mass_kg": "48 g", "chemistry": "nmc",
}  # fmt: skip


def test_a_pack_is_sized_and_a_cell_beyond_its_rating_refused(ines, trip):
    size = ines.post("/size", {"trip": trip, "cell": CELL}).json()
    assert size["fits"] is True
    assert size["series"] == 13
    weak = {**CELL, "max_current_a": 1, "parallel": 2}
    refused = ines.post("/size", {"trip": trip, "cell": weak}).json()
    assert refused["fits"] is False
    assert "won’t do" in refused["notice"]["message"]
    wrong = ines.post("/size", {"trip": trip, "cell": {**CELL, "resistance_ohm": "0.9 Ω"}})
    assert "milliohms for ohms" in wrong.json()["fields"]["resistance_ohm"]
    far = {**trip, "legs": [{"length_m": "1900 km"}]}
    beyond = ines.post("/size", {"trip": far, "cell": CELL})
    assert "no pack of up to 200 groups" in beyond.json()["fields"]["trip"]


def test_the_weather_of_a_place_and_day_is_always_the_same(ines, settings):
    server, settings.WEATHER_URL = weather.serve()
    asked = "/weather?place=Skerrow&date=2026-05-14"
    first, again = ines.get(asked).json(), ines.get(asked).json()
    assert first == again
    expected = weather.report("Skerrow", date(2026, 5, 14))
    assert first["temp_c"] == expected.temp_c
    assert ines.get("/weather?place=Skerrow&date=2026-05-15").json() != first
    assert ines.get("/weather?place=Skerrow&date=soon").status_code == 422
    server.shutdown()
    server.server_close()
    gone = ines.get(asked)
    assert (gone.status_code, gone.json()["code"]) == (503, "no_weather")


class _Nonsense(BaseHTTPRequestHandler):
    def do_GET(self):
        self.send_response(200)
        self.end_headers()
        self.wfile.write(b'{"temp_c": "warm"}')

    def log_message(self, *args):
        pass


def test_an_answer_that_is_not_weather_is_refused_and_so_is_no_source(settings):
    server = ThreadingHTTPServer(("127.0.0.1", 0), _Nonsense)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    settings.DEMO_WEATHER_URL = ""
    settings.WEATHER_URL = f"http://127.0.0.1:{server.server_address[1]}"
    source = WeatherSource(demo=False)
    with pytest.raises(WeatherError, match="answer"):
        source.at("Skerrow", date(2026, 5, 14))
    server.shutdown()
    server.server_close()
    settings.WEATHER_URL = ""
    with pytest.raises(WeatherError, match="No weather source is set up"):
        WeatherSource(demo=True).at("Skerrow", date(2026, 5, 14))
