"""A plan made, ridden by hand and held against its forecast; the tools beside it."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import unfold
from tests.browser.roadside import note


def test_a_test_is_planned_ridden_and_held_against_its_forecast(demo: Page):
    page = demo
    page.goto("/plan/new")
    page.get_by_role("radio", name="Does the maker’s figure hold?").check()
    expect(page.get_by_text(re.compile("Copy the maker’s load"))).to_be_visible()
    page.get_by_label("Route").first.click()
    page.get_by_role("option", name=re.compile("Quay loop")).click()
    page.get_by_label("Laps").fill("8")
    page.get_by_label("Name").fill("Eight rounds")
    unfold(page, "Weather")
    page.get_by_role("button", name="Get the weather").click()
    expect(page.get_by_text(re.compile("From: weather stand-in"))).to_be_visible()
    headline = page.get_by_text(re.compile(r"sure to ride 8 laps"))
    expect(headline).to_be_visible()
    strip = page.get_by_role("img", name=re.compile("^Tideline of the forecast"))
    expect(strip).to_be_visible()
    page.get_by_role("button", name="Save the plan").click()
    page.get_by_role("checkbox", name="Check the tyre pressures").check()
    expect(page.get_by_text("Before you go: 1 of")).to_be_visible()
    page.get_by_label("Who").fill("Maren")
    page.get_by_role("textbox", name="How far").fill("21")
    page.get_by_role("button", name="Seal").click()
    expect(page.get_by_text("sealed", exact=True)).to_be_visible()
    page.reload()
    expect(page.get_by_role("checkbox", name="Check the tyre pressures")).to_be_checked()
    page.get_by_role("button", name="Start the ride").click()
    expect(page.get_by_text("Read the resting volts")).to_be_visible()
    note(page, Volts="41.8", Trip_meter="0")
    page.clock.install()
    page.clock.fast_forward("25:00")
    note(page, Volts="39.6", Trip_meter="4.3")
    expect(page.get_by_text(re.compile(r"% left, forecast \d+"))).to_be_visible()
    page.get_by_role("button", name="End").click()
    page.get_by_label("Resting volts").fill("38.4")
    page.get_by_label("Trip meter").fill("8.6")
    page.get_by_role("button", name="End the ride").click()
    expect(page.get_by_text("All saved")).to_be_visible()
    page.get_by_role("button", name="Read the result").click()
    expect(page.get_by_role("heading", name="Against the plan")).to_be_visible()
    expect(page.get_by_text(re.compile("Forecast range to cut-off"))).to_be_visible()
    expect(page.get_by_text(re.compile(r"^1\. Maren"))).to_be_visible()


def test_a_slider_answers_and_can_be_taken_back(demo: Page):
    page = demo
    page.goto("/forecast")
    figure = page.get_by_text(re.compile("left at the end")).locator("..")
    before = figure.inner_text()
    slider = page.get_by_role("slider", name="Wind")
    slider.focus()
    for _ in range(16):
        slider.press("ArrowRight")
    expect(page.get_by_role("status").filter(has_text="becomes")).to_be_visible()
    expect(figure).not_to_have_text(before, use_inner_text=True)
    page.get_by_role("button", name="Back to today’s conditions").click()
    expect(figure).to_have_text(before, use_inner_text=True)
    expect(page.get_by_role("heading", name="What matters most")).to_be_visible()


def test_the_demos_fair_claim_is_possible_and_the_impossible_one_is_not(demo: Page):
    page = demo
    page.goto("/plan/claim")
    fair = page.get_by_role("listitem").filter(has_text="Turnstone's maker")
    expect(fair).to_contain_text("✓")
    flyer = page.get_by_role("listitem").filter(has_text="A flyer at the ferry")
    expect(flyer).to_contain_text("not possible")
    page.get_by_label("Energy on the label").fill("468 Wh")
    page.get_by_label("Distance claimed").fill("120 km")
    page.get_by_label("At a speed of").fill("25 km/h")
    page.get_by_role("button", name="Check it").click()
    expect(page.get_by_role("status").filter(has_text="Not physically possible")).to_be_visible()
    page.get_by_label("At a speed of").fill("fast")
    page.get_by_role("button", name="Check it").click()
    expect(page.get_by_text(re.compile("is not a quantity"))).to_be_visible()


def test_a_pack_is_sized_with_a_sentence(demo: Page):
    page = demo
    page.goto("/plan/size")
    page.get_by_role("button", name="Size the pack").click()
    expect(page.get_by_role("status").filter(has_text="makes the trip")).to_be_visible()
    expect(page.get_by_text(re.compile("One more cell in parallel adds"))).to_be_visible()


def test_a_gpx_file_becomes_a_route_and_a_loop_is_measured(demo: Page):
    page = demo
    page.goto("/kit/routes")
    page.get_by_role("button", name="Import GPX").click()
    rows = "".join(
        f'<trkpt lat="{47.5 + 0.0009 * k:.5f}" lon="-24.5"><ele>{k}</ele></trkpt>'
        for k in range(40)
    )
    text = f'<gpx version="1.1" creator="x" xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>{rows}</trkseg></trk></gpx>'
    page.locator("input[type=file]").set_input_files(
        [{"name": "north.gpx", "mimeType": "application/gpx+xml", "buffer": text.encode()}]
    )
    page.get_by_role("button", name="Import", exact=True).click()
    row = page.get_by_role("listitem").filter(has_text="north")
    expect(row).to_contain_text("a track")
    page.get_by_role("button", name="Measure a loop").click()
    page.get_by_label("Name").fill("Green")
    page.get_by_label("Readings of one lap").fill("900 m, 904 m, 0.907 km")
    page.get_by_role("button", name="Work out the length").click()
    expect(page.get_by_text(re.compile("904 m, 95%"))).to_be_visible()
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_role("listitem").filter(has_text="Green")).to_contain_text("904 ±")
