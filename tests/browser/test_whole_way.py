"""A new rider's first evening: account, kit, a ride by hand, its result, out and in again."""

import json
import re
import subprocess
import sys
from urllib.parse import quote

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import at_logbook
from tests.browser.roadside import lap, note


def add(page: Page, shelf: str, **fields: str) -> None:
    page.goto(f"/kit/{shelf}")
    page.get_by_role("button", name=re.compile("^Add a ")).click()
    dialog = page.get_by_role("dialog")
    for label, text in fields.items():
        dialog.get_by_label(label.replace("_", " "), exact=False).first.fill(text)
    dialog.get_by_role("button", name="Save", exact=True).click()
    expect(dialog).to_be_hidden()


def minutes_later(page: Page, minutes: float) -> None:
    page.clock.fast_forward(int(minutes * 60_000))


def test_the_whole_way_once(page: Page, tmp_path):
    page.clock.install(time="2026-05-14T09:12:00")
    page.goto("/")
    page.get_by_role("button", name="Create an account").click()
    page.get_by_label("Name").fill("Noor")
    page.get_by_label("Password", exact=False).first.fill("short")
    page.get_by_role("button", name="Create and sign in").click()
    expect(page.get_by_text("too short")).to_be_visible()
    page.get_by_label("Password", exact=False).first.fill("a-long-enough-one")
    page.get_by_role("button", name="Create and sign in").click()
    expect(page.get_by_role("heading", name="No tests yet.")).to_be_visible()

    add(page, "vehicles", Name="Plover", Mass="70 lb")
    expect(page.get_by_text("32 kg")).to_be_visible()
    add(
        page,
        "packs",
        Name="Scoter-1",
        Cells_in_series="10",
        Rated_charge="12,8",
        Full="42",
        **{"Cut-off": "33 V"},
    )
    add(page, "riders", Name="Noor", Mass="11 st", Gear="3")

    page.keyboard.press("r")
    page.get_by_label("Ride name").fill("Harbour and back")
    page.get_by_role("button", name="Start").click()
    note(page, Volts="419", Trip_meter="0", **{"Amp-hours": "0"})

    minutes_later(page, 20)
    note(page, Volts="398", Trip_meter="4", **{"Amp-hours": "2.1"})
    expect(page.get_by_text(re.compile("Turn back when"))).to_be_visible()
    lap(page).click()
    expect(page.get_by_text("1 so far")).to_be_visible()
    page.get_by_role("button", name="Remove").click()
    expect(page.get_by_text("none yet")).to_be_visible()
    page.get_by_role("button", name="Stop").click()
    page.get_by_role("button", name="Go on").click()
    page.get_by_role("button", name="Event").click()
    page.get_by_role("button", name="Turned round").click()
    expect(page.get_by_text("Last: turn")).to_be_visible()
    page.get_by_role("button", name="Event").click()
    page.get_by_role("button", name="Something else").click()
    page.get_by_label("Something else").fill("=wind, from here")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_text("Last: something else")).to_be_visible()

    minutes_later(page, 25)
    page.get_by_role("button", name="End", exact=True).click()
    page.get_by_role("button", name="Finished the route").click()
    page.get_by_label("Resting volts").fill("38.2")
    page.get_by_label("Trip meter").fill("8.1")
    page.get_by_label("Amp-hours").fill("4.4")
    page.get_by_role("button", name="End the ride").click()
    expect(page.get_by_text("All saved")).to_be_visible()
    page.get_by_role("button", name="Read the result").click()

    expect(page.get_by_role("heading", level=1)).to_contain_text("watt-hours a mile")
    first = page.get_by_role("heading", level=1).inner_text()
    page.get_by_role("button", name="Change the entry").last.click()
    page.get_by_role("dialog").get_by_label("Trip meter").fill("9.1")
    page.get_by_role("dialog").get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_text("changed once", exact=True)).to_be_visible()
    expect(page.get_by_role("heading", level=1)).not_to_have_text(first)

    with page.expect_download() as waiting:
        page.get_by_role("button", name="Save as").click()
        page.get_by_role("menuitem", name="A bundle").click()
    bundle = tmp_path / "ride.zip"
    waiting.value.save_as(bundle)
    command = [sys.executable, "-m", "limpet.cli", "analyse", str(bundle), "--json"]
    printed = json.loads(subprocess.run(command, capture_output=True, text=True, check=True).stdout)
    per_mile = printed["consumption"]["wh_per_mi"]["value"]
    # The change may still be worked out: the page comes to what the command prints.
    heading = page.get_by_role("heading", level=1)
    expect(heading).to_contain_text(f"{per_mile:.1f} watt-hours a mile")
    sentence = heading.inner_text()

    page.goto("/logbook")
    page.get_by_role("link", name="Import").click()
    page.locator("input[type=file]").set_input_files(bundle)
    page.get_by_role("button", name="Save the bundle").click()
    expect(page.get_by_role("heading", level=1)).to_have_text(sentence)
    page.get_by_role("button", name="Remove", exact=True).click()
    expect(page.get_by_role("heading", name="One test")).to_be_visible()


def test_a_refused_bundle_is_told_fault_by_fault(demo: Page, tmp_path):
    at_logbook(demo)
    (tmp_path / "test.json").write_text(
        '{"bundle": 1, "title": "x",\n "vehicle": {"kind": "boat"}}'
    )
    (tmp_path / "samples.csv").write_text("time_s,voltage_v\n0,many\n")
    demo.get_by_role("link", name="Import").click()
    demo.locator("input[type=file]").set_input_files(
        [tmp_path / "test.json", tmp_path / "samples.csv"]
    )
    demo.get_by_role("button", name="Save the bundle").click()
    alert = demo.get_by_role("alert")
    expect(alert).to_contain_text("2 faults. Nothing was stored.")
    expect(alert).to_contain_text("samples.csv, line 2, column 2")
    expect(alert).to_contain_text("test.json, line 2, column 22")
    expect(alert.get_by_role("listitem")).to_have_count(2)


def test_a_loggers_files_give_a_result(demo: Page, tmp_path):
    at_logbook(demo)
    from demo.skerrow import ridden
    from limpet.files import write_folder

    write_folder(ridden("turnstone-frost"), tmp_path)
    demo.get_by_role("link", name="Import").click()
    demo.locator("input[type=file]").set_input_files(sorted(tmp_path.iterdir()))
    demo.get_by_role("button", name="Save the bundle").click()
    expect(demo.get_by_role("heading", level=1)).to_contain_text("watt-hours a mile")
    expect(
        demo.get_by_role("img", name=re.compile("^Traces of Volts, Power, Speed, Height"))
    ).to_be_visible()


@pytest.mark.parametrize("title", ["Quay loop, to cut-off", "Quay loop on volts alone"])
def test_the_page_says_what_the_command_line_says(demo: Page, title, tmp_path):
    from demo.skerrow import ROUNDS, ridden
    from limpet.history import learn
    from limpet.tell import analyse

    asked = next(item for item in ROUNDS if item.title == title)
    # On the page a test is taught by those that were ridden before it.
    before = [ridden(item.slug) for item in ROUNDS if item.started_at < asked.started_at]
    result = analyse(ridden(asked.slug), learn(before, ridden(asked.slug)))
    # The list draws only the rows in sight: search for this one.
    demo.goto(f"/logbook?q={quote(title)}")
    demo.get_by_role("link", name=re.compile(title)).click()
    figure = f"{result.consumption.wh_per_mi.value:.1f}"
    expect(demo.get_by_role("heading", level=1)).to_contain_text(f"{figure} watt-hours a mile")
    expect(demo.get_by_text(f"{result.consumption.wh_per_km.value:.1f} Wh/km")).to_be_visible()
