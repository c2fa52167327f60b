"""Files of strangers in the browser: dropped, looked at, changed, joined, saved and undone."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.core.foreign.strangers import SHAPES
from tests.server.letting_in import RIDES, gpx

OF = {shape.name: shape for shape in SHAPES}


def name_kit(page: Page) -> None:
    """What was ridden, in a newcomer's words."""
    page.get_by_label("Its name").fill("Curlew")
    page.get_by_label("The pack’s name").fill("Dab-1")
    page.get_by_label("What its label says").fill("13s 10.4Ah NMC")


def chosen(page: Page, files: dict[str, bytes]) -> None:
    """Open the place and choose files there."""
    page.goto("/import")
    give(page, files)


def give(page: Page, files: dict[str, bytes]) -> None:
    page.locator("input[type=file]").set_input_files(
        [{"name": name, "mimeType": "text/plain", "buffer": data} for name, data in files.items()]
    )


def test_a_strangers_log_is_looked_at_changed_saved_and_undone(newcomer: Page):
    chosen(newcomer, {"ride 12.csv": OF["unit row, semicolons, decimal commas"].data()})
    expect(newcomer.get_by_role("heading", name="ride 12.csv: a log of 1,500 rows")).to_be_visible()
    expect(newcomer.get_by_text("Every column is clear.")).to_be_visible()
    sums = newcomer.get_by_text(re.compile(r"^25 min · 58\.1 Wh · 5\.1 mi"))
    expect(sums).to_be_visible()
    newcomer.get_by_label("Ride name").fill("A stranger’s evening")
    # A wrong choice shows in what it makes, and is taken back.
    newcomer.get_by_role("combobox", name="Unit of Strecke").click()
    newcomer.get_by_role("option", name="mi", exact=True).click()
    expect(newcomer.get_by_text(re.compile(r"^25 min · 58\.1 Wh · 8\.3 mi"))).to_be_visible()
    newcomer.get_by_role("combobox", name="Unit of Strecke").click()
    newcomer.get_by_role("option", name="km", exact=True).click()
    expect(sums).to_be_visible()
    # What was typed before a choice was changed stays.
    expect(newcomer.get_by_label("Ride name")).to_have_value("A stranger’s evening")
    name_kit(newcomer)
    newcomer.get_by_role("button", name="Save to the logbook").click()
    expect(newcomer.get_by_role("heading", level=1)).to_contain_text("watt-hours a mile")
    expect(newcomer.get_by_text("A stranger’s evening").first).to_be_visible()
    # A second time it is noticed, and what was brought is taken back whole.
    chosen(newcomer, {"ride 12.csv": OF["unit row, semicolons, decimal commas"].data()})
    expect(newcomer.get_by_text("This file was imported before")).to_be_visible()
    expect(newcomer.get_by_text("Read as the last file with these headings was.")).to_be_visible()
    newcomer.get_by_role("button", name="Start again").click()
    row = newcomer.get_by_role("listitem").filter(has_text="A stranger’s evening")
    row.get_by_role("button", name="Undo").click()
    expect(row).to_have_count(0)
    newcomer.goto("/logbook")
    expect(newcomer.get_by_role("heading", name="No tests yet.")).to_be_visible()


def test_a_meters_log_and_a_watchs_track_lie_on_one_clock(newcomer: Page):
    meter = OF["ISO clock in UTC with milliseconds"].data()
    chosen(newcomer, {"meter.csv": meter, "watch.gpx": gpx(700, shift_s=97.0)})
    expect(newcomer.get_by_role("heading", name="One ride, from 2 files")).to_be_visible()
    expect(newcomer.get_by_text("Sure: the two speeds agree best here")).to_be_visible()
    by = newcomer.get_by_role("textbox", name="Move watch by, s")
    expect(by).to_have_value("-97")
    newcomer.get_by_role("button", name="1 s later").click()
    expect(by).to_have_value("-96")
    newcomer.get_by_role("slider", name="Move watch by, s").press("ArrowLeft")
    expect(by).to_have_value("-96.5")
    newcomer.get_by_role("button", name="Use the best match").click()
    expect(by).to_have_value("-97")
    name_kit(newcomer)
    newcomer.get_by_role("button", name="Save to the logbook").click()
    expect(newcomer.get_by_role("heading", level=1)).to_contain_text("watt-hours a mile")
    with newcomer.expect_download() as waiting:
        newcomer.get_by_role("button", name="Save as").click()
        newcomer.get_by_role("menuitem", name="The track as GPX").click()
    assert waiting.value.suggested_filename == "meter.gpx"


def test_last_years_spreadsheet_is_saved_in_one_go(newcomer: Page):
    chosen(newcomer, {"rides.csv": RIDES.encode()})
    expect(newcomer.get_by_text("A list of rides: 3 of 4 rows can be saved.")).to_be_visible()
    expect(newcomer.get_by_text("Distance (km) is 'twelve', expected a number")).to_be_visible()
    newcomer.get_by_label("Leave out row 4").uncheck()
    name_kit(newcomer)
    newcomer.get_by_role("button", name="Save 2 rides").click()
    newcomer.wait_for_url("**/logbook")
    newcomer.goto("/logbook?q=To+the+light")
    expect(newcomer.get_by_role("link", name=re.compile("^To the light")).first).to_be_visible()


def test_what_is_dropped_on_a_test_comes_to_stand_beside_it(newcomer: Page):
    chosen(newcomer, {"meter.csv": OF["tabs, ISO clock with offset"].data()})
    name_kit(newcomer)
    newcomer.get_by_role("button", name="Save to the logbook").click()
    newcomer.get_by_role("button", name="Save as").wait_for()
    newcomer.get_by_role("heading", name="How sure, and why").wait_for()
    newcomer.evaluate(
        """(text) => {
          const data = new DataTransfer();
          data.items.add(new File([text], 'watch.gpx'));
          document.body.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }));
        }""",
        gpx(600, form="%Y-%m-%dT%H:%M:%S+02:00").decode(),
    )
    expect(newcomer.get_by_text(re.compile("^Into the test"))).to_be_visible()
    newcomer.get_by_role("button", name="Save to the logbook").click()
    expect(newcomer.get_by_text("It stands beside the test now.")).to_be_visible()
    test_id = newcomer.url.rsplit("/", 1)[-1]
    streams = newcomer.request.get(f"/api/tests/{test_id}/streams").json()
    assert [stream["instrument"] for stream in streams] == ["meter", "watch"]


def test_what_is_no_log_says_what_it_is_and_can_be_begun_again(newcomer: Page):
    chosen(newcomer, {"paper.pdf": b"%PDF-1.7 nothing here"})
    expect(newcomer.get_by_role("alert")).to_contain_text("paper.pdf is a document (PDF)")
    newcomer.get_by_role("button", name="Start again").click()
    give(newcomer, {"a.csv": b"name,colour\none,red\ntwo,blue\n"})
    expect(newcomer.get_by_role("alert")).to_contain_text("columns of figures")


def test_all_round_home_is_left_out_of_a_track(newcomer: Page):
    chosen(newcomer, {"watch.gpx": gpx(700)})
    length = newcomer.get_by_text(re.compile(r"of track in 700 points|700 points"))
    expect(length).to_be_visible()
    newcomer.get_by_role("button", name="Where this track begins").click()
    out = newcomer.get_by_role("checkbox", name="Leave out everything within 300 m of home")
    expect(out).to_be_checked()
    expect(length).to_have_count(0)
    out.uncheck()
    expect(length).to_be_visible()
    # The next track is asked about the same home.
    newcomer.get_by_role("button", name="Start again").click()
    give(newcomer, {"watch.gpx": gpx(650)})
    out.check()
    expect(newcomer.get_by_text(re.compile(r"650 points"))).to_have_count(0)
    newcomer.get_by_role("button", name="Forget this home").click()
    expect(newcomer.get_by_text(re.compile(r"650 points"))).to_be_visible()
    expect(newcomer.get_by_role("button", name="Where it ends")).to_be_visible()
