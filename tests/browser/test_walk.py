"""Every place is entered and left by link, Back, key and palette, in both themes, without a fault."""

from __future__ import annotations

import re
from collections.abc import Iterator
from uuid import NAMESPACE_URL, uuid5

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import PATIENCE_MS, enter_demo, unfold
from tests.browser.contexts import Contexts
from tests.browser.roadside import BENCH

#: address → (what the window is called, what is there once it is drawn)
PLACES = {
    "/logbook": ("Logbook", "Every test|tests"),
    "/import": ("Import", "Bring in what"),
    "/plan": ("Plans", "to ride"),
    "/plan/new": ("Plan a test", "Plan a test"),
    "/plan/claim": ("Claim check", "Can the maker"),
    "/plan/size": ("Size a pack", "How big a pack"),
    "/ride": ("Ride", "Log a ride"),
    "/ride/memory": ("From memory", "Log a past ride"),
    "/compare": ("Compare", "Which uses less"),
    "/compare/ageing": ("Ageing", "It gives|No loss"),
    "/compare/seasons": ("Seasons", "At about"),
    "/compare/tides": ("Tide table", "goes on"),
    "/forecast": ("Forecast", "Will this pack"),
    "/kit/vehicles": ("Vehicles", "Kit"),
    "/kit/packs": ("Packs", "Kit"),
    "/kit/riders": ("Riders", "Kit"),
    "/kit/routes": ("Routes", "Kit"),
    "/forecast/compare": ("Compare trips", "Which trips"),
    "/account": ("Account", "account"),
    "/method": ("Method", "How every figure"),
    "/method/formats/bundle": ("Format", "Formats"),
}
#: Kit of the demo with a page of its own: its ids are made from its names.
LIVES = {
    f"/kit/{shelf}/{uuid5(NAMESPACE_URL, f'limpet-demo/{name}')}": (name, name)
    for shelf, name in (("vehicles", "Turnstone"), ("packs", "Plover-1"), ("riders", "Maren"))
}
PLACES |= LIVES
KEYS = {
    "p": "/plan",
    "r": "/ride",
    "l": "/logbook",
    "c": "/compare",
    "f": "/forecast",
    "k": "/kit/vehicles",
    "m": "/method",
}


class Walker:
    """A demo rider whose console is watched."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.faults: list[str] = []
        page.on("pageerror", lambda error: self.faults.append(f"{page.url}: {error}"))
        page.on("console", self._heard)
        page.on("response", self._answered)

    def _heard(self, message) -> None:
        if message.type == "error":
            self.faults.append(f"{self.page.url}: {message.text}")

    def _answered(self, response) -> None:
        if response.status >= 500:
            self.faults.append(f"{response.url}: {response.status}")

    def arrived(self, path: str) -> None:
        """Wait for a place; the page is not empty, has its title, and nothing went wrong."""
        name, words = PLACES[path]
        self.page.wait_for_url(f"**{path}")
        self.page.get_by_role("heading", name=re.compile(words)).first.wait_for()
        expect(self.page).to_have_title(f"{name} · Limpet")
        self.settled()

    def settled(self) -> None:
        """Nothing loads any more, the root is not empty, and nothing went wrong."""
        expect(self.page.locator("[aria-busy=true]")).to_have_count(0)
        assert self.page.locator("#root > *").count() > 0
        assert self.faults == []


@pytest.fixture(params=["light"])
def walker(request, contexts: Contexts) -> Iterator[Walker]:
    with contexts.lent(viewport=BENCH, color_scheme=request.param) as context:
        page = context.new_page()
        page.set_default_timeout(PATIENCE_MS)
        walker = Walker(page)
        enter_demo(page)
        yield walker
        assert walker.faults == []


def hrefs_of(page: Page) -> list[str]:
    """Addresses of the logbook's tests."""
    page.goto("/logbook")
    rows = page.locator("main ul a")
    rows.first.wait_for()
    return [str(row.get_attribute("href")) for row in rows.all()]


def opened(walker: Walker, href: str) -> None:
    """Open a test from the logbook's row and wait until all of it is drawn."""
    page = walker.page
    page.locator(f"main ul a[href='{href}']").click()
    page.wait_for_url(f"**{href}")
    page.get_by_role("heading", name="How sure, and why").wait_for()
    traces = page.get_by_role("img", name=re.compile("^Traces of"))
    page.wait_for_load_state("networkidle")
    if traces.count():
        traces.locator("path").first.wait_for()
        box = traces.bounding_box()
        assert box is not None
        page.mouse.move(box["x"] + 200, box["y"] + 40)
        page.mouse.move(box["x"] + 220, box["y"] + 40)
    walker.settled()


@pytest.mark.parametrize("walker", ["dark"], indirect=True)
def test_every_test_of_the_demo_can_be_left_in_every_way(walker):
    page = walker.page
    ways = [
        lambda: page.get_by_role("link", name=re.compile("^Kit")).click(),
        lambda: page.go_back(),
        lambda: page.keyboard.press("f"),
        lambda: by_palette(page, "Claim check"),
        lambda: page.get_by_role("link", name="Limpet, to the logbook").click(),
    ]
    arrivals = ["/kit/vehicles", "/logbook", "/forecast", "/plan/claim", "/logbook"]
    for number, href in enumerate(hrefs_of(page)):
        if "/ride/" in href:
            continue
        opened(walker, href)
        way = number % len(ways)
        ways[way]()
        walker.arrived(arrivals[way])
        if arrivals[way] != "/logbook":
            page.keyboard.press("l")
            walker.arrived("/logbook")


def by_palette(page: Page, words: str) -> None:
    page.keyboard.press("Control+k")
    page.get_by_label("Find a place or a test").fill(words)
    # The list follows what you entered: what is wanted is first in it before it is chosen.
    first = page.get_by_role("dialog").get_by_role("button").first
    expect(first).to_have_accessible_name(re.compile(words))
    first.click()


def test_one_test_with_traces_is_left_by_every_way_and_the_theme_changed_on_it(walker):
    page = walker.page
    # Only the rows in sight are drawn: it is searched for.
    page.goto("/logbook?q=Lighthouse")
    row = page.get_by_role("link", name=re.compile("Lighthouse road, twice"))
    href = str(row.get_attribute("href"))
    page.goto("/logbook")
    for way in (
        lambda: page.go_back(),
        lambda: page.keyboard.press("l"),
        lambda: by_palette(page, "Logbook"),
        lambda: page.get_by_role("link", name=re.compile("^Logbook")).click(),
    ):
        opened(walker, href)
        way()
        walker.arrived("/logbook")
    opened(walker, href)
    page.get_by_role("button", name="Demo rider").click()
    page.get_by_role("menuitem", name="Settings").click()
    for theme in ("Dark", "Light", "As the device"):
        page.get_by_text(theme, exact=True).click()
        walker.settled()
    page.get_by_role("button", name="Close").click()
    page.get_by_label("From, mi").fill("2")
    page.get_by_label("To, mi").fill("5")
    page.get_by_role("button", name="Show", exact=True).click()
    page.get_by_role("button", name="Whole ride").wait_for()
    page.reload()
    page.get_by_role("heading", name="How sure, and why").wait_for()
    walker.settled()


def test_every_place_by_address_key_link_and_back(walker):
    page = walker.page
    for number, path in enumerate(PLACES):
        # Light and dark in turns: each place is left in the other than it was come to.
        page.emulate_media(color_scheme=("light", "dark")[number % 2])
        page.goto(path)
        walker.arrived(path)
    for key, path in KEYS.items():
        page.keyboard.press(key)
        walker.arrived(path)
    for path in reversed(list(KEYS.values())[:-1]):
        page.go_back()
        walker.arrived(path)
    for label in ("Ride", "Logbook", "Compare", "Forecast", "Kit", "Method", "Plan"):
        page.get_by_role("navigation", name="Places").get_by_role(
            "link", name=re.compile(f"^{label}")
        ).click()
        walker.settled()
        expect(page.locator("#content")).to_be_focused()


def test_every_dialog_gives_the_focus_back_and_keeps_what_was_typed_from_a_slip(walker):
    page = walker.page
    for path, button, field in (
        ("/kit/vehicles", "Add a vehicle", "Name"),
        ("/kit/packs", "Add a pack", "Name"),
        ("/kit/riders", "Add a rider", "Name"),
        ("/kit/routes", "Add a route", "Name"),
        ("/kit/routes", "Measure a loop", "Name"),
        ("/kit/routes", "Import GPX", "Name"),
        ("/kit/vehicles", "Change Dunlin", "Name"),
        ("/kit/routes", "Open Lighthouse road", None),
    ):
        page.goto(path)
        opener = page.get_by_role("button", name=button, exact=True)
        opener.focus()
        page.keyboard.press("Enter")
        dialog = page.get_by_role("dialog")
        dialog.wait_for()
        assert dialog.get_by_role("button", name="Close").count() >= 1
        if field is not None:
            dialog.get_by_label(field).first.fill("Half typed")
            page.keyboard.press("Escape")
            page.get_by_text("Not saved yet").first.wait_for()
            expect(dialog.get_by_label(field).first).to_have_value("Half typed")
            dialog.get_by_role("button", name="Cancel").click()
        else:
            page.keyboard.press("Escape")
        dialog.wait_for(state="detached")
        expect(opener).to_be_focused()
        walker.settled()


@pytest.mark.parametrize("walker", ["dark"], indirect=True)
def test_what_a_broken_browser_remembers_breaks_no_place(walker):
    page = walker.page
    # The pages themselves say what they keep their drafts under.
    for path in ("/plan/new", "/forecast"):
        page.goto(path)
        unfold(page, "Weather")
        page.get_by_label("Temperature").fill("3")
    page.wait_for_function("() => Object.keys(sessionStorage).length >= 2")
    drafts = page.evaluate("""() => {
        localStorage.setItem('limpet-last-ride', '{broken');
        localStorage.setItem('limpet-color-scheme', '"sepia"');
        const names = Object.keys(sessionStorage).filter((name) => name.includes('draft'));
        for (const name of names) sessionStorage.setItem(name, '[1');
        return names.length;
    }""")
    assert drafts == 2
    for path in ("/ride", "/plan/new", "/forecast"):
        page.goto(path)
        walker.arrived(path)


@pytest.fixture
def unwatched(contexts: Contexts) -> Iterator[Page]:
    """The demo's rider at the bench, where errors are what is looked for."""
    with contexts.lent(viewport=BENCH) as context:
        yield enter_demo(context.new_page())


def test_a_part_that_cannot_be_loaded_says_so_and_leaves_the_rail(unwatched: Page):
    page = unwatched
    page.route(re.compile("assets/ForecastPage"), lambda route: route.abort())
    page.keyboard.press("f")
    page.get_by_role("heading", name="A part of Limpet could not be loaded.").wait_for()
    page.get_by_role("link", name=re.compile("^Kit")).click()
    page.get_by_text("Turnstone").first.wait_for()
    page.unroute(re.compile("assets/ForecastPage"))


def test_a_fault_in_one_place_leaves_the_others_standing(unwatched: Page):
    page = unwatched
    # An answer of another shape than any version gives.
    page.route("**/api/plans", lambda route: route.fulfill(json=[{"id": "x", "title": {"a": 1}}]))
    page.keyboard.press("p")
    page.get_by_role("heading", name="This part of Limpet didn’t work.").wait_for()
    page.unroute("**/api/plans")
    page.get_by_role("link", name=re.compile("^Logbook")).click()
    page.get_by_role("heading", name="tests").wait_for()
