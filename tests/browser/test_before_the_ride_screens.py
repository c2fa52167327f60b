"""The screens around planning: kit with fits, routes, the phone's bar, no signal, wrong input."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Page, Route, expect

from tests.browser.conftest import at_logbook, faultless, unfold
from tests.browser.contexts import Contexts
from tests.browser.roadside import PHONE, note


@pytest.fixture
def phone(contexts: Contexts) -> Iterator[Page]:
    """The demo rider at the roadside, come in by the demo's own button."""
    with contexts.lent(viewport=PHONE) as context, faultless(context) as page:
        page.goto("/")
        page.get_by_role("button", name="Open the demo").click()
        page.get_by_role("heading", name="tests").wait_for()
        yield page


def test_a_vehicle_shows_its_fit_and_can_be_told_to_learn_nothing(demo: Page):
    page = demo
    page.goto("/kit/vehicles")
    row = page.get_by_role("listitem").filter(has_text="Whimbrel")
    expect(row).to_contain_text("road load from 2 tests")
    row.get_by_role("link").click()
    fit = page.get_by_role("region", name="Road load from its tests")
    expect(fit).to_contain_text("rolling resistance")
    speeds = page.get_by_role("region", name="Consumption by speed")
    expect(
        speeds.get_by_role("img", name=re.compile(r"^Consumption by speed held\. "))
    ).to_be_visible()
    # With the rider who is assumed, 83 kg with gear, and its own 86 kg.
    expect(speeds).to_contain_text(
        re.compile(r"own curve on a level road .* with 1\d\d(\.\d)? kg moving")
    )
    fit.get_by_role("button", name="Learn nothing from them").click()
    expect(fit).to_contain_text("Learning is off")
    fit.get_by_role("button", name="Learn from its tests").click()
    expect(fit).to_contain_text("Farm round in the frost")


def test_a_limp_table_is_kept_as_typed(demo: Page):
    page = demo
    page.goto("/kit/vehicles")
    page.get_by_role("listitem").filter(has_text="Dunlin").get_by_role("button").click()
    page.get_by_label("When low").fill("48 V: 20 km/h; 46 V: 10 km/h")
    page.get_by_role("button", name="Save", exact=True).click()
    page.get_by_role("button", name="Leave them as they are").click()
    page.get_by_role("listitem").filter(has_text="Dunlin").get_by_role("button").click()
    expect(page.get_by_label("When low")).to_have_value("48 V: 12.427 mph; 46 V: 6.2137 mph")
    page.get_by_label("When low").fill("soon: slow")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_text(re.compile("'soon' is not a quantity"))).to_be_visible()


def test_legs_are_added_changed_and_refused_beside_their_field(demo: Page):
    page = demo
    page.goto("/kit/routes")
    page.get_by_role("button", name="Add a route").click()
    page.get_by_label("Name").fill("Ferry road")
    page.get_by_label("Length of leg 1").fill("2 km")
    page.get_by_label("Climb of leg 1").fill("30 m")
    page.get_by_label("Towards of leg 1").fill("NE")
    page.get_by_role("button", name="Add a leg").click()
    page.get_by_label("Length of leg 2").fill("far")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_text(re.compile("'far' is not a quantity")).first).to_be_visible()
    page.get_by_label("Length of leg 2").fill("1 mi")
    page.get_by_role("button", name="Save", exact=True).click()
    row = page.get_by_role("listitem").filter(has_text="Ferry road")
    expect(row).to_contain_text("2 legs")
    row.get_by_role("button", name="Change").click()
    expect(page.get_by_label("Towards of leg 1")).to_have_value("45")
    page.get_by_role("button", name="Remove", exact=True).click()
    expect(row).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(row).to_contain_text("2 legs")


def test_a_track_is_drawn_as_profile_and_path(demo: Page):
    page = demo
    page.goto("/kit/routes")
    page.get_by_role("listitem").filter(has_text="Lighthouse road").get_by_role("button").click()
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_role("img", name=re.compile("^Height profile"))).to_be_visible()
    expect(dialog.get_by_role("img", name=re.compile("line, north up"))).to_be_visible()
    expect(dialog).to_contain_text("Heights are smoothed")


def test_wrong_input_stands_beside_its_field_and_the_last_answer_stays(demo: Page):
    page = demo
    page.goto("/forecast")
    headline = page.get_by_text(re.compile(r"% sure to ride"))
    expect(headline).to_be_visible()
    unfold(page, "Weather")
    page.get_by_label("Wind", exact=True).first.fill("80 m/s")
    expect(page.get_by_text(re.compile("takes 0 to 89.48 mph")).first).to_be_visible()
    page.get_by_label("Wind", exact=True).first.fill("3 m/s")
    expect(page.get_by_text(re.compile("takes 0 to 89.48 mph"))).to_have_count(0)
    expect(headline).to_be_visible()


def test_a_distance_is_sketched_and_too_far_says_what_would_work(demo: Page):
    page = demo
    page.goto("/forecast")
    page.get_by_label("Route").first.click()
    page.get_by_role("option", name="A distance, sketched").click()
    expect(page.get_by_text("Choose a route, or sketch one with its length.")).to_be_visible()
    page.get_by_label("Length").fill("400 km")
    cautions = page.get_by_role("list", name="Cautions")
    expect(cautions).to_contain_text("What would work")
    expect(page.get_by_text(re.compile(r"^Under 1% sure$"))).to_be_visible()


def test_a_season_pair_has_its_calendar_file(demo: Page):
    page = demo
    page.goto("/plan/new")
    page.get_by_role("radio", name="How much do winter and summer change it?").check()
    page.get_by_label("Name").fill("Summer and winter")
    expect(page.get_by_text(re.compile("4 rides: warm, run 1"))).to_be_visible()
    page.get_by_role("button", name="Save the plan").click()
    link = page.get_by_role("link", name="Calendar file from tomorrow")
    expect(link).to_be_visible()
    answer = page.request.get(link.get_attribute("href") or "", max_retries=3)
    assert answer.status == 200
    assert answer.text().count("BEGIN:VEVENT") == 4


def test_on_the_phone_the_other_places_stand_under_more(phone: Page):
    bar = phone.get_by_role("navigation", name="Places")
    for name in ("Plan", "Ride", "Logbook"):
        expect(bar.get_by_role("link", name=name, exact=False).first).to_be_visible()
    expect(bar.get_by_role("link", name="Forecast")).to_be_hidden()
    phone.get_by_role("button", name="More", exact=True).click()
    phone.get_by_role("menuitem", name="Forecast").click()
    expect(phone.get_by_text(re.compile("% sure · "))).to_be_visible()
    wide = phone.evaluate("document.documentElement.scrollWidth")
    assert wide <= PHONE["width"]


def test_a_planned_ride_keeps_its_line_without_signal(phone: Page):
    phone.goto("/plan/new")
    phone.get_by_label("Name").fill("No bars")
    phone.get_by_role("button", name="Start the ride").click()
    expect(phone.get_by_text("Read the resting volts")).to_be_visible()
    note(phone, Volts="41.6", Trip_meter="0")
    line = phone.get_by_role("button", name=re.compile("Why, and what else"))
    expect(line).to_contain_text(re.compile("^(Turn back|Home with|You )"))
    expect(line).to_contain_text("Next entry at")
    expect(phone.get_by_text("All saved")).to_be_visible()
    phone.context.set_offline(True)
    note(phone, Volts="41.0", Trip_meter="0.9")
    expect(phone.get_by_text("1 waiting on this phone, no signal")).to_be_visible()
    expect(line).to_contain_text(re.compile("^(Turn back|Home with|You )"))
    phone.context.set_offline(False)
    expect(phone.get_by_text("All saved")).to_be_visible()


def test_every_place_has_its_key_and_the_palette_its_tools(demo: Page):
    at_logbook(demo)
    page = demo
    for key, place in (("p", "/plan"), ("f", "/forecast"), ("k", "/kit/vehicles")):
        page.keyboard.press(key)
        expect(page).to_have_url(re.compile(f"{place}$"))
    page.keyboard.press("Control+k")
    page.get_by_label("Find a place or a test").fill("claim")
    page.get_by_role("button", name=re.compile("Claim check")).click()
    expect(page).to_have_url(re.compile("/plan/claim$"))


def test_what_stands_in_a_form_is_meant_in_the_unit_beside_it(demo: Page):
    """5.3 m/s is 11.856 mph and 19.08 km/h: other units never change what is asked."""
    page = demo
    kept = page.request.get("/api/plans", max_retries=3).json()
    plan = next(item["id"] for item in kept if item["title"].startswith("Lighthouse and back"))
    page.goto(f"/plan/{plan}")
    speed = page.get_by_label("Speed", exact=True)
    expect(speed).to_have_value("11.856")
    for unit, value in (("km", "19.08"), ("mi", "11.856")):
        page.get_by_role("button", name="Demo rider").click()
        page.get_by_role("menuitem", name="Settings").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_text(unit, exact=True).click()
        expect(speed).to_have_value(value)
        dialog.get_by_role("button", name="Close").click()
        expect(dialog).to_have_count(0)


def test_what_was_typed_and_not_kept_is_back_when_the_place_is(demo: Page):
    page = demo
    page.goto("/plan/new")
    page.get_by_label("Name").fill("To the lighthouse in the dark")
    unfold(page, "Weather")
    page.get_by_label("Temperature").fill("-3")
    page.get_by_role("link", name=re.compile("^Kit")).click()
    page.get_by_role("heading", name="Kit").wait_for()
    page.reload()
    page.goto("/plan/new")
    expect(page.get_by_text("Your unsaved changes are back.")).to_be_visible()
    expect(page.get_by_label("Name")).to_have_value("To the lighthouse in the dark")
    expect(page.get_by_label("Temperature")).to_have_value("-3")
    page.get_by_role("button", name="Discard it").click()
    expect(page.get_by_label("Name")).to_have_value("")
    page.reload()
    expect(page.get_by_label("Temperature")).to_have_value("")
    expect(page.get_by_text("Your unsaved changes are back.")).to_have_count(0)


def test_who_guesses_best_stands_under_the_plans_with_the_forecast_among_them(demo: Page):
    demo.goto("/plan")
    wagers = demo.get_by_role("region", name="Who guesses best")
    expect(wagers.get_by_role("heading")).to_have_text(re.compile("guesses best so far$"))
    expect(wagers.get_by_role("rowheader", name="the forecast")).to_be_visible()
    expect(wagers.get_by_role("row")).to_have_count(5)


def test_nothing_that_comes_late_moves_the_start_under_a_thumb(rider: Page):
    """A plan's button came in above it, and the tap that was on its way started another ride."""
    of_one_plan = re.compile(r"/api/plans/[0-9a-f-]{36}$")
    held: list[Route] = []
    rider.route(of_one_plan, lambda route: held.append(route))
    rider.goto("/ride")
    start = rider.get_by_role("button", name=re.compile("^Start with"))
    start.wait_for()
    planned = rider.get_by_role("button", name=re.compile("^Start: "))
    expect(planned.first).to_be_disabled()
    before = start.bounding_box()
    for route in held:
        route.continue_()
    expect(planned.first).to_be_enabled()
    assert start.bounding_box() == before
