"""axe-core finds nothing to complain about: every view and dialog, wide and phone, light and dark."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import open_test, sign_in
from tests.browser.contexts import Contexts
from tests.browser.roadside import BENCH, PHONE, over, press, start_ride, step, store
from tests.browser.test_walk import PLACES, hrefs_of

AXE = (Path(__file__).resolve().parents[2] / "web/node_modules/axe-core/axe.min.js").read_text()
RULES = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"]
COLOURS = ["color-contrast", "link-in-text-block"]
#: What is fine is not listed, no selectors are made up, no styles are fetched again: half of the time.
OPTIONS = {"resultTypes": ["violations"], "selectors": False, "preload": False}


def violations(page: Page, rules: list[str], *, but: list[str] | None = None) -> list[str]:
    """What axe finds by rules, but not by some, each with where it is."""
    if not page.evaluate("'axe' in window"):
        page.evaluate(AXE)
    kind = "rule" if rules is COLOURS else "tag"
    left_out = {rule: {"enabled": False} for rule in but or []}
    options = {"runOnly": {"type": kind, "values": rules}, "rules": left_out, **OPTIONS}
    found = page.evaluate(f"axe.run(document, {json.dumps(options)})")
    return [
        f"{page.url} {rule['id']}: {node['html'][:160]} {node['failureSummary'][:200]}"
        for rule in found["violations"]
        for node in rule["nodes"]
    ]


def looked_at(page: Page) -> list[str]:
    """What axe finds in what is open: at the bench and on the phone, in light and in dark."""
    found = []
    for size in (BENCH, PHONE):
        page.set_viewport_size(size)
        # In dark only the colours are other ones, and those are the same on any screen.
        for scheme in ("light", "dark") if size == BENCH else ("light",):
            page.emulate_media(color_scheme=scheme)
            root = page.locator(f"html[data-mantine-color-scheme={scheme}]")
            root.wait_for(state="attached")
            rules = RULES if scheme == "light" else COLOURS
            faults = violations(page, rules, but=COLOURS if size == PHONE else None)
            found += [f"{scheme}, {size['width']}: {fault}" for fault in faults]
    page.emulate_media(color_scheme="light")
    page.set_viewport_size(BENCH)
    return found


@pytest.fixture
def still(contexts: Contexts) -> Iterator[Page]:
    """The demo rider's page, in which nothing moves."""
    how = {"viewport": BENCH, "color_scheme": "light", "reduced_motion": "reduce"}
    with contexts.lent(**how) as context:
        yield sign_in(context.new_page())


def test_axe_finds_nothing_at_the_door(page: Page):
    page.goto("/")
    page.get_by_role("button", name="Open the demo").wait_for()
    assert looked_at(page) == []


def test_axe_finds_nothing_in_any_place(still):
    hrefs = hrefs_of(still)
    kept_plan = still.request.get("/api/plans", max_retries=3).json()
    waiting = next(plan["id"] for plan in kept_plan if plan["test_id"] is None)
    with_traces = next(h for h in hrefs if "/tests/" in h)
    first, second = (href.rsplit("/", 1)[-1] for href in hrefs[-2:])
    compared = f"/compare?first={first}&second={second}"
    found = []
    for path in [*PLACES, with_traces, hrefs[-1], f"/plan/{waiting}", compared]:
        still.goto(path)
        still.locator("main h1").first.wait_for()
        expect(still.locator("[aria-busy=true]")).to_have_count(0)
        found += looked_at(still)
    assert found == []


def test_axe_finds_nothing_in_dialogs(still):
    found = []
    for path, button in (
        ("/kit/vehicles", "Change Dunlin"),
        ("/kit/routes", "Change Quay loop"),
        ("/kit/routes", "Open Lighthouse road"),
    ):
        still.goto(path)
        still.get_by_role("button", name=button, exact=True).click()
        still.get_by_role("dialog").wait_for()
        found += looked_at(still)
    assert found == []


def test_axe_finds_nothing_in_what_opens_over_a_page(still):
    """The account's menu, the palette, a term's sentence, what saves a drawing, the result as a picture, no page."""
    found = []
    open_test(still, "Lighthouse road, twice")
    still.get_by_role("button", name="reserve", exact=True).first.click()
    still.get_by_role("link", name="All terms").wait_for()
    found += looked_at(still)
    still.keyboard.press("Escape")
    still.get_by_role("button", name=re.compile("^Save or share Methods for energy")).click()
    still.get_by_role("menuitem", name="Save as PNG").wait_for()
    found += looked_at(still)
    still.keyboard.press("Escape")
    still.get_by_role("button", name="Picture").click()
    still.get_by_role("dialog").wait_for()
    found += looked_at(still)
    still.keyboard.press("Escape")
    still.get_by_role("button", name=re.compile("Demo rider")).click()
    still.get_by_role("menuitem", name="Settings").wait_for()
    found += looked_at(still)
    still.keyboard.press("Escape")
    still.keyboard.press("Control+k")
    still.get_by_role("dialog").wait_for()
    found += looked_at(still)
    still.goto("/nowhere")
    still.get_by_role("heading", level=1).wait_for()
    found += looked_at(still)
    assert found == []


def test_axe_finds_nothing_at_the_roadside_in_sunlight(still):
    start_ride(still, "In the sun")
    found = looked_at(still)
    still.get_by_role("button", name="First entry").click()
    for name in ("Volts", "Gauge", "More"):
        step(still, name)
        found += looked_at(still)
    step(still, "Volts")
    press(still, "412")
    found += looked_at(still)
    store(still)
    found += looked_at(still)
    still.get_by_role("button", name=re.compile("Why, and what else")).wait_for()
    for name in ("Why, and what else", "^Event", "^End", "^Menu", "^All saved"):
        still.get_by_role("button", name=re.compile(name)).click()
        over(still).wait_for()
        found += looked_at(still)
        still.go_back()
        over(still).wait_for(state="hidden")
    still.goto("/ride/practice")
    still.get_by_role("button", name=re.compile("^Ride")).wait_for()
    found += looked_at(still)
    still.get_by_role("button", name=re.compile("^Ride")).click()
    found += looked_at(still)
    still.get_by_role("button", name=re.compile("^End")).click()
    still.get_by_role("heading", name="Five lessons").wait_for()
    found += looked_at(still)
    assert found == []
