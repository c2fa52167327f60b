"""Changing things: kit with units, entries at the bench, a folder dropped in."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import at_logbook
from tests.browser.roadside import note, over, press, start_ride, store


def test_a_pack_is_changed_and_comes_back_as_it_was_stored(demo: Page):
    demo.goto("/kit/packs")
    demo.get_by_role("button", name="Change Fulmar-1").click()
    dialog = demo.get_by_role("dialog")
    expect(dialog.get_by_label("Cut-off")).to_have_value("44.8")
    dialog.get_by_label("Note").fill("Rebalanced by the harbour electrician.")
    dialog.get_by_role("button", name="Save", exact=True).click()
    expect(demo.get_by_text("Rebalanced by the harbour electrician.")).to_be_visible()
    demo.reload()
    expect(demo.get_by_text("Rebalanced by the harbour electrician.")).to_be_visible()


def test_a_vehicle_is_added_removed_and_had_back(demo: Page):
    demo.goto("/kit/vehicles")
    demo.get_by_role("button", name="Add a vehicle").click()
    dialog = demo.get_by_role("dialog")
    dialog.get_by_label("Name").fill("Redshank")
    dialog.get_by_label("Mass").fill("2 st")
    dialog.get_by_role("button", name="Save", exact=True).click()
    expect(demo.get_by_text("Redshank is saved.")).to_be_visible()
    expect(demo.get_by_text("13 kg")).to_be_visible()
    for undo in (True, False):
        demo.get_by_role("button", name="Change Redshank").click()
        demo.get_by_role("button", name="Remove", exact=True).click()
        expect(demo.get_by_role("button", name="Change Redshank")).to_be_hidden()
        if undo:
            demo.get_by_role("button", name="Undo").click()
            expect(demo.get_by_role("button", name="Change Redshank")).to_be_visible()
            expect(demo.get_by_text("13 kg")).to_be_visible()
    demo.reload()
    expect(demo.get_by_role("button", name="Change Dunlin")).to_be_visible()
    expect(demo.get_by_role("button", name="Change Redshank")).to_be_hidden()


def test_a_very_long_name_breaks_nothing(demo: Page):
    demo.goto("/kit/riders")
    demo.get_by_role("button", name="Add a rider").click()
    dialog = demo.get_by_role("dialog")
    dialog.get_by_label("Name").fill("Wilhelmina" * 10)
    dialog.get_by_role("button", name="Save", exact=True).click()
    expect(dialog).to_be_hidden()
    assert demo.evaluate("document.documentElement.scrollWidth") <= 1280


@pytest.fixture
def quay(demo: Page) -> Page:
    demo.goto("/logbook?q=gently")
    demo.get_by_role("link", name=re.compile("Quay loop, ridden gently")).click()
    demo.get_by_role("region", name="Entries").wait_for()
    return demo


def test_an_entry_is_removed_had_back_and_another_added_at_the_bench(quay: Page):
    rows = quay.get_by_role("region", name="Entries").get_by_role("row")
    count = rows.count()
    remove = quay.get_by_role("button", name="Remove the entry")
    last = rows.nth(count - 1).inner_text()
    remove.nth(count - 2).click()
    expect(rows).to_have_count(count - 1)
    quay.get_by_role("button", name="Undo").click()
    expect(rows).to_have_count(count)
    assert rows.nth(count - 1).inner_text().split("\t")[:4] == last.split("\t")[:4]
    remove.nth(count - 2).click()
    expect(rows).to_have_count(count - 1)
    quay.get_by_role("button", name="Add an entry").click()
    dialog = quay.get_by_role("dialog")
    dialog.get_by_label("Time").fill("soon")
    expect(dialog.get_by_text("write it like 42.5")).to_be_visible()
    expect(dialog.get_by_role("button", name="Save", exact=True)).to_be_disabled()
    dialog.get_by_label("Time").fill("121,5")
    dialog.get_by_label("Watt-hours").fill("0,214 kWh")
    dialog.get_by_label("Note").fill("Read again at home.")
    dialog.get_by_role("button", name="Save", exact=True).click()
    expect(quay.get_by_text("Read again at home.")).to_be_visible()
    expect(quay.get_by_role("gridcell", name="214.0").first).to_be_visible()
    expect(rows).to_have_count(count)


def test_an_untouched_entry_stored_again_changes_nothing(quay: Page):
    # The dialog shows rounded figures; storing them must not round what was recorded.
    heading = quay.get_by_role("heading", level=1)
    before = heading.inner_text()
    quay.get_by_role("button", name="Change the entry").nth(1).click()
    quay.get_by_role("dialog").get_by_role("button", name="Save", exact=True).click()
    expect(quay.get_by_role("dialog")).to_be_hidden()
    expect(quay.get_by_text("changed once")).to_be_hidden()
    expect(heading).to_have_text(before)


def test_a_slip_is_asked_about_on_the_ride(demo: Page):
    start_ride(demo, "A slip of the finger")
    note(demo, Volts="47")
    question = demo.get_by_role("alert")
    expect(question).to_contain_text("47 V at 0 min is outside the 20 to 44 V")
    expect(question).to_contain_text("Was it mistyped?")
    question.get_by_role("button", name="Correct").click()
    for _ in "47":
        over(demo).get_by_role("button", name="One back").click()
    press(demo, "41.9")
    store(demo)
    expect(question).to_be_hidden()
    expect(demo.get_by_role("button", name=re.compile(r"^Last: start .*41\.9\sV"))).to_be_visible()


def test_a_ride_remembers_which_fields_its_kit_has(demo: Page):
    start_ride(demo)
    note(demo, Odometer="1200.4", Volts="41.5")
    demo.get_by_role("button", name=re.compile("^Entry")).click()
    # In the order in which they were read, and what was skipped once after them.
    steps = over(demo).get_by_role("navigation", name="What to read").get_by_role("button")
    expect(steps).to_have_text(
        [re.compile(name) for name in ("^Odometer", "^Volts", "^Trip meter", "^Gauge", "^More")]
    )


def test_a_ride_that_cannot_be_ended_yet_says_why(demo: Page):
    start_ride(demo)
    expect(demo.get_by_role("button", name="End", exact=True)).to_be_disabled()
    expect(demo.get_by_role("button", name=re.compile("^Lap"))).to_be_disabled()
    expect(demo.get_by_role("status").filter(has_text="Read the resting volts")).to_be_visible()


def test_the_roads_own_targets_are_large_enough_for_gloves(demo: Page):
    demo.set_viewport_size({"width": 390, "height": 844})
    start_ride(demo)
    for name in ("First entry", "Lap", "Stop", "Event", "End"):
        box = demo.get_by_role("button", name=re.compile(f"^{name}")).bounding_box()
        assert box is not None
        assert min(box["height"], box["width"]) >= 56, name
        assert box["y"] + box["height"] <= 844, name


def test_a_folder_dropped_in_is_read_file_by_file(demo: Page):
    # A real directory entry cannot be made by a page; this one answers as the browser's would.
    at_logbook(demo)
    demo.get_by_role("link", name="Import").click()
    zone = demo.get_by_text("Drop a log, a track").locator("..")
    zone.evaluate(
        """(element) => {
          const texts = {
            'test.json': '{"bundle":1,"title":"Dropped whole","vehicle":{"kind":"trike"},"pack":{"chemistry":"nmc","series":13,"rated_ah":14}}',
            'entries.csv': 'time_s,kind,trip_m,energy_wh\\n0,start,0,0\\n3600,end,20000,260\\n',
          };
          const files = Object.entries(texts).map(([name, text]) => ({
            isFile: true, isDirectory: false, name, fullPath: `/ride/${name}`, file: (yes) => yes(new File([text], name)),
          }));
          const folder = {
            isDirectory: true, isFile: false, name: 'ride',
            createReader: () => ({ readEntries: (yes) => yes(files.splice(0, 1)) }),
          };
          const event = new Event('drop', { bubbles: true, cancelable: true });
          event.dataTransfer = {
            types: ['Files'], files: [], items: [{ kind: 'file', webkitGetAsEntry: () => folder }],
          };
          element.dispatchEvent(event);
        }"""
    )
    demo.get_by_role("button", name="Save the bundle").click()
    expect(demo.get_by_text("Dropped whole", exact=True)).to_be_visible()
    expect(demo.get_by_role("heading", level=1)).to_contain_text("20.9 watt-hours a mile")


@pytest.mark.parametrize("scheme", ["light", "dark"])
def test_text_has_contrast_enough(demo: Page, scheme):
    # WCAG 2.2, 1.4.3: 4.5 : 1 for text; relative luminance as defined there.
    demo.emulate_media(color_scheme=scheme)
    demo.goto("/logbook?q=Quay")
    demo.get_by_role("link", name=re.compile("Quay loop, ridden gently")).wait_for()
    ratios = demo.evaluate(
        """() => {
          const style = getComputedStyle(document.documentElement);
          const light = (name) => {
            const hex = style.getPropertyValue(name).trim().slice(1, 7);
            const parts = [0, 2, 4].map((k) => parseInt(hex.slice(k, k + 2), 16) / 255)
              .map((c) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4));
            return 0.2126 * parts[0] + 0.7152 * parts[1] + 0.0722 * parts[2];
          };
          const paper = light('--paper');
          return ['--ink', '--soft', '--tide', '--shell', '--kelp', '--buoy'].map((name) => {
            const voice = light(name);
            return [name, (Math.max(paper, voice) + 0.05) / (Math.min(paper, voice) + 0.05)];
          });
        }"""
    )
    assert [(name, round(ratio, 2)) for name, ratio in ratios if ratio < 4.5] == []


def test_what_was_refused_is_brought_into_sight(demo: Page):
    page = demo
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto("/logbook?q=to cut-off")
    page.get_by_role("link", name=re.compile("Quay loop, to cut-off")).click()
    page.get_by_role("button", name="Add an entry").click()
    dialog = page.get_by_role("dialog")
    volts = dialog.get_by_label("Resting volts")
    volts.fill("54000")
    dialog.get_by_role("button", name="Save", exact=True).click()
    expect(dialog.get_by_text("is 54000 V, takes 0 to 2,000 V")).to_be_in_viewport()
    expect(volts).to_be_focused()
    volts.fill("39.5")
    expect(dialog.get_by_text("takes 0 to 2,000 V")).to_have_count(0)
