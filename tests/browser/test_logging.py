"""Logging with one thumb: the pad, events, laps, the line, pictures, the phone's own track, the end."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.roadside import (
    PHONE,
    all_sent,
    kept_here,
    lap,
    later,
    note,
    over,
    press,
    reckoned,
    start_ride,
    step,
    store,
)

NOW = re.compile("Why, and what else")


def test_an_ended_ride_is_taken_up_again(rider: Page):
    start_ride(rider, "Not over yet")
    note(rider, Volts="415", Trip_meter="0")
    rider.get_by_role("button", name="End", exact=True).click()
    rider.get_by_role("button", name="Gave up").click()
    rider.get_by_role("button", name="End the ride").click()
    all_sent(rider)
    rider.get_by_role("button", name=re.compile("^Ride on")).click()
    note(rider, Volts="401", Trip_meter="3")
    all_sent(rider)
    rider.reload()
    expect(rider.get_by_text("3 entries")).to_be_visible()
    expect(lap(rider)).to_be_enabled()


def test_volts_trip_and_gauge_in_twelve_taps(rider: Page):
    start_ride(rider, "Count the taps")
    note(rider, Volts="415", Trip_meter="0")
    rider.get_by_role("button", name=re.compile("^Entry")).click()
    step(rider, "Gauge")
    over(rider).get_by_role("button", name="Bars").click()
    over(rider).get_by_role("button", name="5", exact=True).click()
    over(rider).get_by_role("button", name="5 bars").click()
    store(rider)
    all_sent(rider)

    taps = 0

    def tap(name: str | re.Pattern[str], exact: bool = True) -> None:
        nonlocal taps
        taps += 1
        where = over(rider) if taps > 1 else rider
        key = where.get_by_role("button", name=name, exact=exact)
        box = key.bounding_box()
        assert box is not None
        # WCAG 2.2, 2.5.8 asks for 24 px; a glove for more.
        assert min(box["width"], box["height"]) >= 56, name
        assert box["y"] + box["height"] <= PHONE["height"], f"{name} is off the screen"
        key.tap()

    tap(re.compile("^Entry"))
    for digit in "387":
        tap(digit)
    tap("Next")
    for digit in "42":
        tap(digit)
    tap("Next")
    tap("3 bars")
    tap("Save")
    expect(over(rider)).to_be_hidden()
    assert taps <= 12
    last = rider.get_by_role("button", name=re.compile("^Last: entry"))
    expect(last).to_contain_text("38.7 V")
    expect(last).to_contain_text("3")


def test_an_entry_of_two_readings_takes_three_taps_beside_its_digits(rider: Page):
    """A ride of four entries and an end: at most four taps an entry beside the digits, three for the end."""
    start_ride(rider, "Taps of a whole ride")
    taps: list[str] = []

    def tap(name: str | re.Pattern[str], where: Page | Locator | None = None) -> None:
        taps.append(str(name))
        (where or over(rider)).get_by_role("button", name=name, exact=True).tap()

    def entry(opening: str | re.Pattern[str], volts: str, trip: str) -> list[str]:
        taps.clear()
        tap(opening, rider)
        press(rider, volts)
        tap("Next")
        press(rider, trip)
        tap("Save")
        expect(over(rider)).to_be_hidden()
        return list(taps)

    # The first time the trip meter is looked for; from then on the pad leads to it.
    note(rider, Volts="415", Trip_meter="0")
    for volts, trip in (("402", "2.1"), ("391", "4.3"), ("380", "6.6")):
        assert len(entry(re.compile("^Entry"), volts, trip)) <= 3
    all_sent(rider)
    last = rider.get_by_role("button", name=re.compile("^Last: entry"))
    expect(last).to_contain_text("6.60 mi")
    taps.clear()
    tap("End", rider)
    tap("Gave up", rider)
    tap("End the ride", rider)
    expect(rider.get_by_role("button", name=re.compile("^Ride on"))).to_be_visible()
    assert len(taps) == 3


def test_both_voltages_make_one_entry(rider: Page):
    where = start_ride(rider, "A pair of volts")
    rider.get_by_role("button", name="First entry").click()
    press(rider, "41.2")
    over(rider).get_by_role("button", name="Under load").click()
    press(rider, "38.6")
    store(rider)
    all_sent(rider)
    kept = rider.request.get(f"/api/tests/{where.rsplit('/', 1)[-1]}", max_retries=3).json()[
        "entries"
    ]
    assert [(entry["voltage_rest_v"], entry["voltage_load_v"]) for entry in kept] == [(41.2, 38.6)]
    # What is stored is no draft of the next one.
    drafts = "Object.keys(localStorage).filter((key) => key.startsWith('limpet-draft-'))"
    assert rider.evaluate(drafts) == []


def test_a_lap_that_took_twice_as_long_is_asked_about(rider: Page):
    rider.clock.install()
    start_ride(rider, "Once round, or twice")
    note(rider, Volts="41.6")
    for minutes in (5, 5, 10, 5):
        later(rider, minutes)
        lap(rider).click()
    asked = rider.get_by_role("alert").filter(has_text="Was one not counted")
    expect(asked).to_contain_text("10 min, the others take 5 min")
    asked.get_by_role("button", name="Yes, that’s right").click()
    expect(asked).to_be_hidden()


def test_an_event_is_one_tap_or_a_figure_and_means_something(rider: Page):
    where = start_ride(rider, "Things happen")
    note(rider, Volts="415", Trip_meter="0")
    rider.get_by_role("button", name="Event", exact=True).click()
    over(rider).get_by_role("button", name="Puncture").click()
    expect(rider.get_by_role("button", name=re.compile("^Last: puncture"))).to_be_visible()
    rider.get_by_role("button", name="Event", exact=True).click()
    over(rider).get_by_role("button", name=re.compile("^Walked")).click()
    press(rider, "0.4")
    store(rider)
    rider.get_by_role("button", name="Event", exact=True).click()
    over(rider).get_by_role("button", name=re.compile("^At a place")).click()
    rider.get_by_label("At a place: its name").fill("Peat cutters' hut")
    store(rider)
    rider.get_by_role("button", name="Event", exact=True).click()
    over(rider).get_by_role("button", name=re.compile("^Wind")).click()
    press(rider, "12")
    over(rider).get_by_role("button", name="SW", exact=True).click()
    store(rider)
    # A place is offered again on the way back.
    rider.get_by_role("button", name="Event", exact=True).click()
    over(rider).get_by_role("button", name=re.compile("^At a place")).click()
    over(rider).get_by_role("button", name="Peat cutters' hut").click()
    all_sent(rider)
    kept = rider.request.get(f"/api/tests/{where.rsplit('/', 1)[-1]}", max_retries=3).json()[
        "entries"
    ][1:]
    assert [(one["kind"], one["what"], one["place"]) for one in kept] == [
        ("event", "puncture", None),
        ("event", "walked", None),
        ("checkpoint", None, "Peat cutters' hut"),
        ("event", "wind", None),
        ("checkpoint", None, "Peat cutters' hut"),
    ]
    assert kept[1]["walked_m"] == pytest.approx(0.4 * 1609.344)
    assert kept[3]["wind_mps"] == pytest.approx(12 * 0.44704)
    assert kept[3]["wind_from_deg"] == 225


def test_there_is_an_answer_from_the_first_entry_on_with_its_reasons(rider: Page):
    rider.clock.install()
    start_ride(rider, "An answer")
    expect(rider.get_by_text("Read the resting volts")).to_be_visible()
    note(rider, Volts="41.6", Trip_meter="0")
    line = rider.get_by_role("button", name=NOW)
    expect(line).to_contain_text("left")
    later(rider, 40)
    note(rider, Volts="38.9", Trip_meter="6.5")
    expect(line).to_contain_text(re.compile("^Turn back"))
    expect(line).to_contain_text("With your last entry")
    line.click()
    table = over(rider).get_by_role("table", name="What you could do")
    expect(table.get_by_role("row").nth(1)).to_contain_text("carry on as now")
    over(rider).get_by_role("button", name="Another distance …").click()
    over(rider).get_by_label("Distance to go").fill("3.2 mi")
    over(rider).get_by_label("Climb ahead").fill("90 ft")
    over(rider).get_by_role("button", name="Use this distance").click()
    expect(over(rider).get_by_text("Distance to go").first.locator("..")).to_contain_text("3.2 mi")
    rider.go_back()
    expect(line).to_contain_text(re.compile("^(Home with|You )"))
    expect(line).to_contain_text("3.2 mi to go")


def test_without_signal_the_answer_moves_by_the_table(rider: Page):
    rider.clock.install()
    start_ride(rider, "By the table")
    note(rider, Volts="41.6", Trip_meter="0")
    later(rider, 22)
    note(rider, Volts="39.6", Trip_meter="3.5")
    line = rider.get_by_role("button", name=NOW)
    expect(line).to_contain_text(re.compile("^Turn back when"))
    kept_here(rider, "rides", "(row) => row.table && !row.table.start_values")
    before = line.inner_text()
    rider.context.set_offline(True)
    later(rider, 30)
    note(rider, Volts="37.2", Trip_meter="8.4")
    expect(line).to_contain_text("Worked out on this phone, last answer")
    expect(line).not_to_have_text(before)
    line.click()
    expect(over(rider)).to_contain_text("Worked out on this phone")
    expect(over(rider).get_by_role("table", name="What you could do")).to_be_visible()


def test_held_across_and_at_the_smallest_everything_is_in_reach(rider: Page):
    start_ride(rider, "Every way round")
    note(rider, Volts="41.6", Trip_meter="0")
    for width, height in ((844, 390), (390, 844), (320, 640)):
        rider.set_viewport_size({"width": width, "height": height})
        for name in ("^Entry", "^Lap ", "^Stop", "^Event$", "^End$"):
            box = rider.get_by_role("button", name=re.compile(name)).bounding_box()
            assert box is not None
            assert min(box["width"], box["height"]) >= 56, (name, width)
            if width != 320:
                assert box["y"] + box["height"] <= height, (name, width)
        rider.get_by_role("button", name=re.compile("^Entry")).click()
        for name in ("7", "0", "Save", "Skip"):
            box = over(rider).get_by_role("button", name=name, exact=True).bounding_box()
            assert box is not None
            assert min(box["width"], box["height"]) >= 56, (name, width)
        assert rider.evaluate("document.documentElement.scrollWidth") <= width
        rider.go_back()
        expect(over(rider)).to_be_hidden()


def test_themes_are_chosen_for_the_ride_alone(rider: Page):
    start_ride(rider, "In the sun")
    for name, paper in (("Dark", "rgb(16, 25, 29)"), ("Light", "rgb(246, 243, 236)"), ("Sunlight", "rgb(255, 255, 255)")):  # fmt: skip
        rider.get_by_role("button", name="Menu").click()
        over(rider).get_by_role("button", name=name, exact=True).click()
        rider.go_back()
        expect(rider.locator("main").locator("..")).to_have_css("background-color", paper)
    rider.reload()
    expect(rider.locator("main").locator("..")).to_have_css(
        "background-color", "rgb(255, 255, 255)"
    )


def test_what_is_prepared_is_remembered_until_the_first_entry(rider: Page):
    start_ride(rider, "Well prepared")
    rider.get_by_role("button", name=re.compile("^Before you go: 0 of 8")).click()
    over(rider).get_by_label("Check the tyre pressures").check()
    rider.reload()
    expect(over(rider).get_by_label("Check the tyre pressures")).to_be_checked()
    over(rider).get_by_role("button", name="Back").click()
    expect(rider.get_by_role("button", name=re.compile("^Before you go: 1 of 8"))).to_be_visible()
    note(rider, Volts="415")
    expect(rider.get_by_role("button", name=re.compile("^Before you go"))).to_be_hidden()


def test_after_the_end_a_rest_tells_more_and_what_was_limped_stays_apart(rider: Page):
    rider.clock.install()
    where = start_ride(rider, "Limping home")
    note(rider, Volts="415", Trip_meter="0")
    later(rider, 60)
    rider.get_by_role("button", name="End", exact=True).click()
    rider.get_by_role("button", name="Drive cut off").click()
    over(rider).get_by_label("Resting volts").fill("33.4")
    over(rider).get_by_label("Trip meter").fill("12")
    rider.get_by_role("button", name="End the ride").click()
    later(rider, 10)
    rider.get_by_role("button", name=re.compile("^After a rest")).click()
    press(rider, "344")
    step(rider, "Trip meter")
    press(rider, "12.3")
    store(rider)
    all_sent(rider)
    # The result is made behind it; its page waits for it.
    rider.get_by_role("button", name="Read the result").click()
    rider.get_by_role("heading", name="How sure, and why").wait_for()
    kept = reckoned(rider, where.rsplit("/", 1)[-1])
    assert [entry["kind"] for entry in kept["entries"]] == ["start", "end", "settle"]
    assert kept["entries"][-1]["voltage_rest_v"] == 34.4
    assert kept["result"]["distance"]["value"] < 12.1 * 1609.344


def test_a_phones_own_track_is_recorded_and_only_lap_and_event_live_while_it_moves(walking: Page):
    rider = walking
    where = start_ride(rider, "By its own position")
    note(rider, Volts="415", Trip_meter="0")
    rider.context.grant_permissions(["geolocation"])
    rider.context.set_geolocation({"latitude": 57.2, "longitude": -7.4, "accuracy": 5})
    rider.get_by_role("button", name="Menu").click()
    over(rider).get_by_role("switch", name="Record my track").click()
    rider.go_back()
    kept_here(rider, "points", "(row) => row.latitude_deg === 57.2")
    rider.get_by_role("button", name="End", exact=True).click()
    rider.get_by_role("button", name="End the ride").click()
    all_sent(rider)
    streams = rider.request.get(
        f"/api/tests/{where.rsplit('/', 1)[-1]}/streams", max_retries=3
    ).json()
    assert [(stream["instrument"], stream["rows"] >= 1) for stream in streams] == [("phone", True)]


def test_a_picture_of_the_display_is_kept_with_its_time_and_read_at_the_bench(rider: Page):
    where = start_ride(rider, "In a picture")
    rider.context.set_offline(True)
    picture = rider.screenshot(type="jpeg", quality=90)
    rider.get_by_label("Picture of the display").set_input_files(
        {"name": "IMG_0001.jpg", "mimeType": "image/jpeg", "buffer": picture}
    )
    expect(rider.get_by_role("button", name=re.compile("^Last: start .*picture"))).to_be_visible()
    rider.context.set_offline(False)
    all_sent(rider)
    entry = rider.request.get(f"/api/tests/{where.rsplit('/', 1)[-1]}", max_retries=3).json()[
        "entries"
    ][0]
    test_id = where.rsplit("/", 1)[-1]
    shown = rider.request.get(f"/api/tests/{test_id}/photo?name={entry['photo']}", max_retries=3)
    assert shown.headers["content-type"] == "image/jpeg"
    assert len(shown.body()) <= 300 * 1024
    rider.set_viewport_size({"width": 1280, "height": 800})
    rider.goto(f"/tests/{test_id}")
    rider.get_by_role("button", name="Change the entry").click()
    expect(rider.get_by_role("img", name="What the display showed")).to_be_visible()
    rider.get_by_role("dialog").get_by_label("Resting volts").fill("41.3")
    rider.get_by_role("dialog").get_by_role("button", name="Save", exact=True).click()
    expect(rider.get_by_role("dialog")).to_be_hidden()
    expect(rider.get_by_role("gridcell", name="41.3", exact=True)).to_be_visible()
    kept = rider.request.get(f"/api/tests/{test_id}", max_retries=3).json()["entries"][0]
    assert (kept["photo"], kept["voltage_rest_v"]) == (entry["photo"], 41.3)
