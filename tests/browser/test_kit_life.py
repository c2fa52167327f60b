"""A vehicle's, a pack's and a rider's own page; a correction of kit carried into tests; trips kept and compared."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import at_logbook, unfold

PHONE = {"width": 390, "height": 844}


def test_a_packs_life_is_drawn_and_says_when_to_test_again(demo: Page):
    demo.goto("/kit/packs")
    demo.get_by_role("link", name="Plover-1").click()
    expect(demo).to_have_title("Plover-1 · Limpet")
    left = demo.get_by_role("region", name="Remaining capacity")
    expect(left).to_contain_text(re.compile("Test it again (in|now)"))
    expect(left).to_contain_text("80% of what it gave first")
    chart = left.get_by_role(
        "img", name=re.compile("^Capacity at 25 °C, share of the label over months")
    )
    expect(chart).to_have_attribute(
        "aria-label", re.compile("Quay loop till empty, spring 2025: 9")
    )
    expect(chart.locator("circle")).to_have_count(5)
    left.get_by_text("by cycles").click()
    expect(left.get_by_role("img", name=re.compile("over equivalent full cycles"))).to_be_visible()
    left.get_by_role("link", name="Quay loop till empty, autumn 2025").click()
    expect(demo.get_by_role("heading", level=1)).to_contain_text("of its label")


def test_a_vehicles_life_leads_to_its_tests_and_its_forecast_back_to_it(demo: Page):
    demo.goto("/kit/vehicles")
    demo.get_by_role("link", name="Turnstone").click()
    bands = demo.get_by_role("region", name="Consumption by speed")
    expect(bands.get_by_role("row")).to_have_count(4)
    strips = demo.get_by_role("region", name="Its tests")
    expect(strips.get_by_role("link", name=re.compile("^The maker's 40 km")).first).to_be_visible()
    demo.get_by_role("link", name="Forecast with it").click()
    expect(demo.get_by_role("combobox", name="Vehicle")).to_have_value("Turnstone")
    rests = demo.get_by_role("region", name="What it is based on")
    expect(rests).to_contain_text("Town letters in the frost")
    rests.get_by_role("link", name="Consumption: history").click()
    demo.wait_for_url("**/kit/vehicles/*")
    demo.get_by_role("region", name="Its tests").get_by_role("link").last.click()
    demo.get_by_role("link", name="Pack: history").click()
    expect(demo.get_by_role("heading", level=1)).to_have_text("Eider-1")


def test_what_an_instrument_taught_is_switched_off_and_on(demo: Page):
    demo.goto("/kit/vehicles")
    demo.get_by_role("link", name="Turnstone").click()
    taught = demo.get_by_role("region", name="What its tests taught")
    expect(taught.get_by_role("row", name=re.compile("^Trip meter"))).to_contain_text("1.06")
    switch = taught.get_by_role("switch", name=re.compile("Use: Trip meter"))
    switch.press("Space")
    expect(switch).not_to_be_checked()
    # Only now the server has it.
    expect(switch).to_be_enabled()
    demo.reload()
    expect(switch).not_to_be_checked()
    switch.press("Space")
    expect(switch).to_be_checked()


def test_a_riders_mass_stands_over_time(demo: Page):
    demo.goto("/kit/riders")
    demo.get_by_role("link", name="Maren").click()
    mass = demo.get_by_role("region", name="Mass over time")
    expect(mass.get_by_role("row", name=re.compile("autumn 2024"))).to_contain_text("70.0 kg")
    expect(mass.get_by_role("row", name=re.compile("spring 2026"))).to_contain_text("72.0 kg")


def test_a_correction_of_kit_is_carried_into_the_tests_that_it_belongs_to(demo: Page):
    demo.goto("/kit/vehicles")
    demo.get_by_role("button", name="Change Whimbrel").click()
    demo.get_by_label("Mass").fill("90 kg")
    demo.get_by_role("button", name="Save", exact=True).click()
    offer = demo.get_by_role("dialog", name="Correct Whimbrel in its tests?")
    expect(offer.get_by_label("Farm round in the frost")).to_be_visible()
    expect(offer).to_contain_text("Mass: 86.0 kg → 90.0 kg")
    expect(offer.get_by_role("button", name="Correct them")).to_be_disabled()
    offer.get_by_label("Farm round in the frost").check()
    offer.get_by_role("button", name="Correct 1").click()
    expect(demo.get_by_text("1 test is corrected. Results follow.")).to_be_visible()
    demo.goto("/logbook?q=Whimbrel")
    demo.get_by_role("link", name=re.compile("Farm round")).click()
    sheet = demo.get_by_role("region", name="Sheet")
    expect(sheet).to_contain_text("Mass 90.0 kg")
    sheet.get_by_text("Changed once").click()
    sheet.get_by_role("button", name="Undo").click()
    expect(sheet).to_contain_text("Mass 86.0 kg")
    # The other test was left alone; what is the same everywhere is not asked about.
    demo.goto("/kit/vehicles")
    demo.get_by_role("button", name="Change Whimbrel").click()
    demo.get_by_label("Mass").fill("86 kg")
    demo.get_by_role("button", name="Save", exact=True).click()
    expect(demo.get_by_role("dialog")).to_be_hidden()


def keep(page: Page, name: str, temperature: str) -> None:
    unfold(page, "Weather")
    page.get_by_label("Temperature", exact=True).first.fill(temperature)
    expect(page.locator("summary").filter(has_text=f"Weather: {temperature} °C")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Save this")).click()
    page.get_by_role("dialog").get_by_label("Name").fill(name)
    page.get_by_role("dialog").get_by_role("button", name="Save", exact=True).click()
    page.get_by_role("heading", level=1, name=name).wait_for()


def test_trips_are_kept_opened_by_their_address_and_compared(demo: Page):
    demo.goto("/forecast")
    demo.get_by_text("What matters most").wait_for()
    keep(demo, "A cold day", "-2")
    address = demo.url
    demo.get_by_role("link", name="Another trip").click()
    demo.get_by_role("heading", name="Will this pack").wait_for()
    keep(demo, "A warm day", "21")
    demo.goto(address)
    expect(demo.get_by_label("Temperature", exact=True).first).to_have_value("-2")
    # What is typed into a kept trip and not kept is no other trip's.
    unfold(demo, "Weather")
    demo.get_by_label("Temperature", exact=True).first.fill("5")
    demo.goto("/forecast")
    expect(demo.get_by_label("Temperature", exact=True).first).to_have_value("")
    demo.goto(address)
    expect(demo.get_by_label("Temperature", exact=True).first).to_have_value("5")
    kept = demo.get_by_role("region", name="Saved trips")
    kept.get_by_label("Compare A warm day").check()
    kept.get_by_role("link", name="Compare 2").click()
    expect(demo.get_by_role("heading", level=1)).to_contain_text("2 trips side by side")
    air = demo.get_by_role("row", name=re.compile("^air")).get_by_role("cell")
    expect(air).to_have_text(["−2 °C", "21 °C"])
    left = demo.get_by_role("row", name=re.compile("^left at the end")).get_by_role("cell")
    expect(left).to_contain_text(["%", "%"])
    cold, warm = (int(re.match(r"\d+", text).group()) for text in left.all_inner_texts())
    assert cold < warm
    expect(demo.get_by_role("img", name=re.compile("^Tideline of the forecast"))).to_have_count(2)
    demo.goto(address)
    demo.get_by_role("button", name="Save the changes").click()
    demo.get_by_role("dialog").get_by_role("button", name="Remove").click()
    expect(demo).to_have_url(re.compile("/forecast$"))
    expect(demo.get_by_label("Compare A cold day")).to_be_hidden()
    demo.goto(address)
    expect(demo.get_by_text("There is no trip at this address")).to_be_visible()


@pytest.mark.parametrize("path", ["/forecast", "/plan/new"])
def test_on_a_phone_the_answer_is_one_line_that_stays_and_opens(rider: Page, path: str):
    page = rider
    page.goto(path)
    line = page.get_by_role("button", name=re.compile("sure · .* left after .* Open"))
    line.wait_for()
    headline = page.get_by_text(re.compile("sure to ride"))
    expect(headline).to_be_hidden()
    unfold(page, "Starts")
    page.get_by_label("Charged").scroll_into_view_if_needed()
    expect(line).to_be_in_viewport()
    before = line.inner_text()
    page.get_by_label("Charged").fill("40")
    expect(line).not_to_have_text(before)
    line.click()
    expect(headline).to_be_visible()
    page.get_by_role("button", name=re.compile("Close$")).first.click()
    expect(headline).to_be_hidden()


def test_the_walk_shows_five_parts_of_a_result_and_can_be_left(demo: Page):
    at_logbook(demo)
    offer = demo.get_by_role("region", name="A short walk")
    offer.get_by_role("button", name="Begin the walk").click()
    for number, part in enumerate(("sentence", "figures", "tideline", "sure", "sheet"), start=1):
        card = demo.get_by_role("region", name=re.compile(f"^Card {number} of 5"))
        expect(card).to_be_focused()
        expect(demo.locator("[data-walked]")).to_have_attribute("data-walk", part)
        expect(demo.locator("[data-walked]")).to_be_in_viewport()
        if number < 5:
            card.get_by_role("button", name="Next").click()
    demo.get_by_role("button", name="Back", exact=True).click()
    demo.keyboard.press("Escape")
    expect(demo.get_by_role("region", name=re.compile("^Card"))).to_be_hidden()
    expect(demo.locator("[data-walked]")).to_have_count(0)
    demo.goto("/logbook")
    offer.get_by_role("button", name="No, thanks").click()
    expect(offer).to_be_hidden()
    demo.reload()
    demo.get_by_role("heading", name="tests").wait_for()
    expect(offer).to_be_hidden()
