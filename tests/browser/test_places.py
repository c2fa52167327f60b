"""Finding one's way, by key, by name, on the phone and without eyes."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import at_logbook, open_test


def test_every_place_has_its_key_and_the_back_button_works(demo: Page):
    at_logbook(demo)
    demo.keyboard.press("k")
    expect(demo).to_have_url(re.compile("/kit/vehicles"))
    demo.keyboard.press("r")
    expect(demo).to_have_url(re.compile("/ride"))
    demo.go_back()
    expect(demo.get_by_text("Whimbrel", exact=True)).to_be_visible()
    demo.keyboard.press("l")
    expect(demo.get_by_role("heading", level=1)).to_contain_text("tests")
    demo.keyboard.press("Shift+?")
    expect(demo.get_by_role("dialog", name="Shortcuts")).to_be_visible()


def test_the_palette_finds_a_test(demo: Page):
    at_logbook(demo)
    demo.keyboard.press("Control+k")
    demo.get_by_label("Find a place or a test").fill("frost")
    demo.get_by_role("button", name=re.compile("Farm round in the frost")).click()
    expect(
        demo.get_by_role("main").get_by_text("Farm round in the frost", exact=True)
    ).to_be_visible()
    expect(demo.get_by_text("Caution. It was 0 °C")).to_be_visible()


def test_filters_are_in_the_address(demo: Page):
    at_logbook(demo)
    demo.get_by_label("Search").fill("worn pack")
    expect(demo.get_by_text("1 of")).to_be_visible()
    address = demo.url
    demo.get_by_role("link", name=re.compile("worn pack")).click()
    demo.go_back()
    expect(demo).to_have_url(address)
    expect(demo.get_by_role("listitem")).to_have_count(1)


def test_units_follow_the_rider(demo: Page):
    at_logbook(demo)
    demo.get_by_role("button", name="Demo rider").click()
    demo.get_by_role("menuitem", name="Settings").click()
    demo.get_by_text("km", exact=True).click()
    demo.keyboard.press("Escape")
    expect(demo.get_by_text("Wh/km").first).to_be_visible()
    expect(demo.get_by_text("0 km", exact=True)).to_be_visible()
    demo.get_by_role("button", name="Demo rider").click()
    demo.get_by_role("menuitem", name="Settings").click()
    demo.get_by_text("mi", exact=True).click()
    expect(demo.get_by_text("0 mi", exact=True)).to_be_visible()


def test_every_drawing_has_words_and_a_table(demo: Page):
    open_test(demo, "Lighthouse road, twice")
    # The logbook's rows have strips too, another of about this length among them.
    demo.get_by_role("heading", name="How sure, and why").wait_for()
    strip = demo.get_by_role(
        "img", name=re.compile(r"^Tideline: 22\.1 mi ridden, \d+% of the energy left")
    )
    expect(strip).to_be_visible()
    traces = demo.get_by_role("region", name="Traces")
    traces.get_by_text("As a table").click()
    expect(traces.get_by_role("columnheader", name="Volts, V")).to_be_visible()
    expect(demo.get_by_role("img", name=re.compile("^Methods in Wh: .*used"))).to_be_visible()


def test_one_cursor_reads_all_traces_and_stands_on_the_strip(demo: Page):
    open_test(demo, "Lighthouse road, twice")
    chart = demo.get_by_role("img", name=re.compile("^Traces of"))
    chart.scroll_into_view_if_needed()
    box = chart.bounding_box()
    assert box is not None
    chart.locator("path").first.wait_for()
    demo.mouse.move(box["x"] + 60, box["y"] + 40)
    demo.mouse.move(box["x"] + 250, box["y"] + 40, steps=4)
    expect(
        demo.get_by_text(re.compile(r"mi · \d\d:\d\d · \d+\.\d V · .* W · .* mph · .* ft"))
    ).to_be_visible()
    strip = demo.get_by_role("img", name=re.compile("^Tideline"))
    expect(strip.locator("line[class*=cursor]")).to_have_count(1)


def test_a_stretch_is_fetched_in_full_and_has_figures_of_its_own(demo: Page):
    open_test(demo, "Lighthouse road, twice")
    chart = demo.get_by_role("img", name=re.compile("^Traces of"))
    chart.locator("path").first.wait_for()
    expect(demo.locator("p", has_text="The whole log")).to_contain_text("22.1 mi")
    box = chart.bounding_box()
    assert box is not None
    demo.mouse.move(box["x"] + 60, box["y"] + 30)
    demo.mouse.down()
    demo.mouse.move(box["x"] + 160, box["y"] + 30, steps=4)
    with demo.expect_response(re.compile("traces.*from_s=")):
        demo.mouse.up()
    expect(demo.locator("p", has_text="This stretch")).to_contain_text("Wh/mi")
    # The same by keyboard: the two ends are typed.
    demo.get_by_label("From, mi").fill("2")
    demo.get_by_label("To, mi").fill("5")
    demo.get_by_label("To, mi").press("Enter")
    expect(demo.locator("p", has_text="This stretch")).to_contain_text("3.0 mi")
    demo.get_by_role("button", name="Whole ride").click()
    expect(demo.locator("p", has_text="The whole log")).to_be_visible()


def test_traces_are_chosen_by_name(demo: Page):
    open_test(demo, "Lighthouse road, twice")
    demo.get_by_role("img", name="Traces of Volts, Power, Speed, Height", exact=False).wait_for()
    demo.locator("[class*=MultiSelect-input]").first.click()
    demo.get_by_role("option", name="Amps").click()
    demo.get_by_role("option", name="Height").click()
    demo.keyboard.press("Escape")
    demo.get_by_role("img", name="Traces of Volts, Power, Speed, Amps", exact=False).wait_for()


def test_a_faulty_field_says_so_beside_itself_and_nothing_is_stored(demo: Page):
    demo.goto("/kit/packs")
    demo.get_by_role("button", name="Add a pack").click()
    dialog = demo.get_by_role("dialog")
    dialog.get_by_label("Name").fill("Teal-1")
    dialog.get_by_label("Cells in series").fill("13")
    dialog.get_by_label("Rated charge").fill("14 kg")
    dialog.get_by_role("button", name="Save", exact=True).click()
    expect(dialog.get_by_text("'kg' is not a unit of charge; write it like 9.4 Ah")).to_be_visible()
    dialog.get_by_role("button", name="Cancel").click()
    expect(demo.get_by_text("Teal-1")).to_be_hidden()


@pytest.mark.parametrize("path", ["/logbook", "/ride", "/kit/packs", "test"])
def test_nothing_runs_off_the_side_of_a_phone(demo: Page, path):
    demo.set_viewport_size({"width": 390, "height": 844})
    if path == "test":
        open_test(demo, "Lighthouse road, twice")
        demo.get_by_role("heading", name="How sure, and why").wait_for()
    else:
        demo.goto(path)
    demo.get_by_role("heading", level=1).wait_for()
    assert demo.evaluate("document.documentElement.scrollWidth") <= 390


def test_an_unknown_test_and_an_unknown_place_say_so(demo: Page):
    demo.goto("/tests/11111111-1111-4111-8111-111111111111")
    expect(demo.get_by_role("alert")).to_contain_text("There is nothing here under that id")
    demo.goto("/nowhere")
    expect(demo.get_by_role("alert")).to_contain_text("There is no page at this address")


def test_a_server_that_does_not_answer_is_told_and_can_be_tried_again(demo: Page):
    demo.route("**/api/vehicles", lambda route: route.abort())
    demo.goto("/kit/vehicles")
    expect(demo.get_by_role("alert")).to_contain_text("Limpet isn’t answering")
    demo.unroute("**/api/vehicles")
    demo.get_by_role("button", name="Try again").click()
    expect(demo.get_by_text("Whimbrel", exact=True)).to_be_visible()


def test_nothing_is_fetched_from_elsewhere(demo: Page, address: str):
    asked: list[str] = []
    demo.on("request", lambda request: asked.append(request.url))
    demo.goto("/logbook")
    open_test(demo, "Lighthouse road, twice")
    demo.get_by_role("img", name=re.compile("^Traces of")).wait_for()
    assert asked
    assert [url for url in asked if not url.startswith((address, "data:"))] == []
    assert demo.evaluate("document.fonts.check('16px \"Atkinson Hyperlegible Next Variable\"')")
