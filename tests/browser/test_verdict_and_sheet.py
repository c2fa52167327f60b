"""The page's own corrections: a sheet, an entry, an assumption; a figure followed to its formula; print."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import open_test


def test_a_sheet_is_corrected_the_result_follows_and_is_undone(demo: Page):
    open_test(demo, "Quay loop, ridden gently")
    sentence = demo.get_by_role("heading", level=1)
    before = sentence.inner_text()
    demo.get_by_role("button", name="Change: Pack", exact=True).last.click()
    dialog = demo.get_by_role("dialog")
    dialog.get_by_label("Rated charge").fill("28 Ah")
    dialog.get_by_role("button", name="Save", exact=True).click()
    expect(dialog).to_be_hidden()
    expect(sentence).not_to_have_text(before)
    demo.get_by_text("Changed once").click()
    expect(demo.get_by_text("Rated charge: 14.0 Ah → 28.0 Ah")).to_be_visible()
    demo.get_by_role("button", name="Undo").click()
    expect(sentence).to_have_text(before)


def test_a_fault_stands_beside_its_field_and_what_was_typed_stays(demo: Page):
    open_test(demo, "Quay loop, ridden gently")
    demo.get_by_role("button", name="Change: Conditions").last.click()
    dialog = demo.get_by_role("dialog")
    dialog.get_by_label("Air at the start").fill("12 psi")
    dialog.get_by_label("Wind", exact=True).fill("900 mph")
    dialog.get_by_role("button", name="Save", exact=True).click()
    expect(dialog.get_by_text("is not a unit of temperature")).to_be_visible()
    expect(dialog.get_by_text(re.compile("is 900 mph, takes"))).to_be_visible()
    expect(dialog.get_by_label("Air at the start")).to_have_value("12 psi")
    dialog.get_by_role("button", name="Cancel").click()


def test_a_pack_is_said_in_a_riders_words(demo: Page):
    open_test(demo, "Quay loop, ridden gently")
    demo.get_by_role("button", name="Change: Pack", exact=True).last.click()
    dialog = demo.get_by_role("dialog")
    dialog.get_by_label("The pack in your words").fill("10s3p of 3.0 Ah cells")
    expect(dialog.get_by_text("Understood: 10 cells in series, 9.0 Ah")).to_be_visible()
    expect(dialog.get_by_label("Cells in parallel")).to_have_value("3")
    dialog.get_by_role("button", name="Cancel").click()


def test_of_two_tabs_the_later_is_told_and_both_versions_are_kept(demo: Page):
    open_test(demo, "Peat track with the parcel box")
    other = demo.context.new_page()
    other.goto(demo.url)
    for page in (demo, other):
        page.get_by_role("button", name="Change: Tyres").click()
        page.get_by_role("dialog").get_by_label("Pressure").wait_for()
    demo.get_by_role("dialog").get_by_label("Pressure").fill("210 kPa")
    demo.get_by_role("dialog").get_by_role("button", name="Save", exact=True).click()
    expect(demo.get_by_role("dialog")).to_be_hidden()
    late = other.get_by_role("dialog")
    late.get_by_label("Pressure").fill("260 kPa")
    late.get_by_role("button", name="Save", exact=True).click()
    expect(late.get_by_role("alert")).to_contain_text("changed meanwhile")
    expect(late.get_by_role("alert")).to_contain_text("there 210 kPa")
    expect(late.get_by_label("Pressure")).to_have_value("260 kPa")
    late.get_by_role("button", name="Save mine over it").click()
    expect(late).to_be_hidden()
    other.get_by_text(re.compile("Changed 3 times")).click()
    expect(other.get_by_text("not saved: it was changed meanwhile")).to_be_visible()
    other.close()


def test_an_entry_is_written_in_place_by_keyboard_alone(demo: Page):
    open_test(demo, "Quay loop, to cut-off")
    cell = demo.locator("[data-row='0'][data-column='0']")
    was = cell.inner_text()
    cell.focus()
    demo.keyboard.press("ArrowDown")
    demo.keyboard.press("ArrowUp")
    demo.keyboard.type("41.5")
    demo.keyboard.press("Escape")
    expect(cell).to_have_text(was)
    demo.keyboard.type("4")
    demo.keyboard.type("00")
    demo.keyboard.press("Enter")
    expect(cell.get_by_role("alert")).to_contain_text("expected")
    demo.keyboard.press("Escape")
    demo.keyboard.press("Enter")
    box = cell.get_by_role("textbox")
    box.fill("41.6")
    demo.keyboard.press("Enter")
    expect(cell).to_have_text(re.compile("41.6"))
    # It went down to the next entry.
    expect(demo.locator("[data-row='1'][data-column='0']")).to_be_focused()
    cell.focus()
    demo.keyboard.type(was)
    demo.keyboard.press("Tab")
    expect(cell).to_have_text(was)


def test_what_looks_odd_is_asked_beside_its_cell_and_can_be_so(demo: Page):
    open_test(demo, "Quay loop, to cut-off")
    cell = demo.locator("[data-row='0'][data-column='0']")
    was = cell.inner_text()
    cell.focus()
    demo.keyboard.type("52")
    demo.keyboard.press("Enter")
    expect(cell).to_have_attribute("data-questioned", "true")
    expect(demo.locator("svg").get_by_text("?", exact=True)).to_be_visible()
    demo.get_by_role("button", name="That’s right").click()
    expect(cell).not_to_have_attribute("data-questioned", "true")
    cell.focus()
    demo.keyboard.type(was)
    demo.keyboard.press("Enter")
    expect(cell).to_have_text(was)


def test_a_figure_is_followed_to_its_formula_and_into_method(demo: Page):
    open_test(demo, "Lighthouse road, twice")
    demo.get_by_role("button", name="Range to cut-off").click()
    dialog = demo.get_by_role("dialog")
    expect(dialog.get_by_text("With this test’s numbers:")).to_be_visible()
    expect(dialog.get_by_role("cell", name="22.12 mi")).to_be_visible()
    expect(dialog.get_by_text("What makes it uncertain")).to_be_visible()
    dialog.get_by_role("link", name="More in Method").click()
    expect(demo).to_have_url(re.compile("/method#range$"))
    expect(demo.locator("#range")).to_be_in_viewport()
    demo.go_back()
    demo.get_by_role("heading", name="How sure, and why").wait_for()


def test_an_assumption_is_changed_results_say_so_and_it_is_taken_back(demo: Page):
    demo.goto("/method#assumptions")
    demo.get_by_role("button", name="Change Run to run").click()
    dialog = demo.get_by_role("dialog")
    dialog.get_by_label("Standard uncertainty").fill("0.9")
    dialog.get_by_role("button", name="Save", exact=True).click()
    expect(dialog.get_by_text(re.compile("is 0.9, takes 0 to"))).to_be_visible()
    dialog.get_by_label("Standard uncertainty").fill("0.16")
    dialog.get_by_role("button", name="Save", exact=True).click()
    expect(demo.get_by_text(re.compile("yours; usually 1 ±0.08"))).to_be_visible()
    open_test(demo, "Farm round in the frost")
    expect(demo.get_by_text("Assumed differently from the usual")).to_contain_text("Run to run")
    demo.goto("/method#assumptions")
    demo.get_by_role("button", name="Change Run to run").click()
    demo.get_by_role("dialog").get_by_role("button", name="As usual").click()
    expect(demo.get_by_text(re.compile("yours; usually"))).to_be_hidden()
    open_test(demo, "Farm round in the frost")
    expect(demo.get_by_text("Assumed differently from the usual")).to_be_hidden()


def test_an_own_reserve_is_what_a_form_begins_with(demo: Page):
    demo.goto("/method#assumptions")
    demo.get_by_role("button", name="Change Reserve").click()
    demo.get_by_role("dialog").get_by_label("Value").fill("0.3")
    demo.get_by_role("dialog").get_by_role("button", name="Save", exact=True).click()
    expect(demo.get_by_text(re.compile("yours; usually 0.2"))).to_be_visible()
    for path in ("/forecast", "/plan/new", "/plan/size", "/ride"):
        demo.goto(path)
        expect(demo.get_by_label(re.compile("^(Keep back|Reserve)"))).to_have_value("30")
    demo.goto("/method#assumptions")
    demo.get_by_role("button", name="Change Reserve").click()
    demo.get_by_role("dialog").get_by_role("button", name="As usual").click()
    expect(demo.get_by_text(re.compile("yours; usually"))).to_be_hidden()


def test_a_formats_page_is_reached_from_method(demo: Page):
    demo.goto("/method")
    demo.get_by_role("link", name="The test bundle").click()
    expect(demo.get_by_role("heading", name="The test bundle, version 1")).to_be_visible()
    expect(demo.get_by_role("cell", name="Pack voltage [V]").first).to_be_visible()


def test_a_result_is_printed_on_two_pages_black_on_white_with_its_drawings(demo: Page):
    page = demo
    page.emulate_media(color_scheme="dark")
    titles = [
        "Lighthouse road, twice",
        "Quay loop, to cut-off",
        "What the bars and the display say",
    ]
    for title in titles:
        open_test(page, title)
        # Traces and map are fetched by themselves: what waits for them is taller than they are.
        page.wait_for_load_state("networkidle")
        page.emulate_media(media="print")
        pages = page.pdf(prefer_css_page_size=True).count(b"/Type /Page\n")
        assert pages <= 2, title
        paper = page.evaluate("getComputedStyle(document.body).backgroundColor")
        assert paper == "rgb(255, 255, 255)"
        expect(page.get_by_role("button", name="Print")).to_be_hidden()
        expect(page.get_by_text("Range to cut-off", exact=True).first).to_be_visible()
        expect(page.get_by_role("img", name=re.compile("^Methods in Wh"))).to_be_visible()
        for drawing in ("^Traces of", "^Map of the ride"):
            there = page.get_by_role("img", name=re.compile(drawing))
            assert there.count() == 0 or there.is_visible()
        page.emulate_media(media="screen")
