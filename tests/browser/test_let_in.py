"""Files of strangers in the browser: dropped, looked at, changed, joined, saved and undone."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.core.foreign.strangers import SHAPES
from tests.server.test_imports import RIDES, gpx

OF = {shape.name: shape for shape in SHAPES}


def chosen(page: Page, files: dict[str, bytes]) -> None:
    """Open the place and choose files there."""
    page.goto("/import")
    give(page, files)


def give(page: Page, files: dict[str, bytes]) -> None:
    page.locator("input[type=file]").set_input_files(
        [{"name": name, "mimeType": "text/plain", "buffer": data} for name, data in files.items()]
    )


def test_a_strangers_log_is_looked_at_changed_saved_and_undone(demo: Page):
    chosen(demo, {"ride 12.csv": OF["unit row, semicolons, decimal commas"].data()})
    expect(demo.get_by_role("heading", name="ride 12.csv: a log of 1,500 rows")).to_be_visible()
    expect(demo.get_by_text("Every column is clear.")).to_be_visible()
    sums = demo.get_by_text(re.compile(r"^25 min · 58\.1 Wh · 5\.1 mi"))
    expect(sums).to_be_visible()
    # A wrong choice shows in what it makes, and is taken back.
    demo.get_by_role("combobox", name="Unit of Strecke").click()
    demo.get_by_role("option", name="mi", exact=True).click()
    expect(demo.get_by_text(re.compile(r"^25 min · 58\.1 Wh · 8\.3 mi"))).to_be_visible()
    demo.get_by_role("combobox", name="Unit of Strecke").click()
    demo.get_by_role("option", name="km", exact=True).click()
    expect(sums).to_be_visible()
    demo.get_by_label("Ride name").fill("A stranger’s evening")
    demo.get_by_role("button", name="Save to the logbook").click()
    expect(demo.get_by_role("heading", level=1)).to_contain_text("watt-hours a mile")
    expect(demo.get_by_text("A stranger’s evening").first).to_be_visible()
    # A second time it is noticed, and what was brought is taken back whole.
    chosen(demo, {"ride 12.csv": OF["unit row, semicolons, decimal commas"].data()})
    expect(demo.get_by_text("This file was imported before")).to_be_visible()
    expect(demo.get_by_text("Read as the last file with these headings was.")).to_be_visible()
    demo.get_by_role("button", name="Start again").click()
    row = demo.get_by_role("listitem").filter(has_text="A stranger’s evening")
    row.get_by_role("button", name="Undo").click()
    expect(row).to_have_count(0)
    demo.goto("/logbook?q=evening")
    expect(demo.get_by_text("No test fits these filters")).to_be_visible()


def test_a_meters_log_and_a_watchs_track_lie_on_one_clock(demo: Page):
    meter = OF["ISO clock in UTC with milliseconds"].data()
    chosen(demo, {"meter.csv": meter, "watch.gpx": gpx(700, shift_s=97.0)})
    expect(demo.get_by_role("heading", name="One ride, from 2 files")).to_be_visible()
    expect(demo.get_by_text("Sure: the two speeds agree best here")).to_be_visible()
    by = demo.get_by_role("textbox", name="Move watch by, s")
    expect(by).to_have_value("-97")
    demo.get_by_role("button", name="1 s later").click()
    expect(by).to_have_value("-96")
    demo.get_by_role("slider", name="Move watch by, s").press("ArrowLeft")
    expect(by).to_have_value("-96.5")
    demo.get_by_role("button", name="Use the best match").click()
    expect(by).to_have_value("-97")
    demo.get_by_role("button", name="Save to the logbook").click()
    expect(demo.get_by_role("heading", level=1)).to_contain_text("watt-hours a mile")
    with demo.expect_download() as waiting:
        demo.get_by_role("button", name="Save as").click()
        demo.get_by_role("menuitem", name="The track as GPX").click()
    assert waiting.value.suggested_filename == "meter.gpx"


def test_last_years_spreadsheet_is_saved_in_one_go(demo: Page):
    chosen(demo, {"rides.csv": RIDES.encode()})
    expect(demo.get_by_text("A list of rides: 3 of 4 rows can be saved.")).to_be_visible()
    expect(demo.get_by_text("Distance (km) is 'twelve', expected a number")).to_be_visible()
    demo.get_by_label("Leave out row 4").uncheck()
    demo.get_by_role("button", name="Save 2 rides").click()
    demo.wait_for_url("**/logbook")
    demo.goto("/logbook?q=To+the+light")
    expect(demo.get_by_role("link", name=re.compile("^To the light")).first).to_be_visible()


def test_what_is_dropped_on_a_test_comes_to_stand_beside_it(demo: Page):
    chosen(demo, {"meter.csv": OF["tabs, ISO clock with offset"].data()})
    demo.get_by_role("button", name="Save to the logbook").click()
    demo.get_by_role("button", name="Save as").wait_for()
    demo.get_by_role("heading", name="How sure, and why").wait_for()
    demo.evaluate(
        """(text) => {
          const data = new DataTransfer();
          data.items.add(new File([text], 'watch.gpx'));
          document.body.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }));
        }""",
        gpx(600, form="%Y-%m-%dT%H:%M:%S+02:00").decode(),
    )
    expect(demo.get_by_text(re.compile("^Into the test"))).to_be_visible()
    demo.get_by_role("button", name="Save to the logbook").click()
    expect(demo.get_by_text("It stands beside the test now.")).to_be_visible()
    demo.get_by_role("heading", name="How sure, and why").wait_for()
    expect(demo.get_by_text("track").first).to_be_visible()


def test_what_is_no_log_says_what_it_is_and_can_be_begun_again(demo: Page):
    chosen(demo, {"paper.pdf": b"%PDF-1.7 nothing here"})
    expect(demo.get_by_role("alert")).to_contain_text("paper.pdf is a document (PDF)")
    demo.get_by_role("button", name="Start again").click()
    give(demo, {"a.csv": b"name,colour\none,red\ntwo,blue\n"})
    expect(demo.get_by_role("alert")).to_contain_text("columns of figures")
