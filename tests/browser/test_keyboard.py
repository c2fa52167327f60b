"""Every form with the keyboard alone: each of its controls is reached, seen when it is, and left again."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import open_test, sign_in
from tests.browser.contexts import Contexts
from tests.browser.roadside import BENCH

#: So many controls no form has: a walk that is longer goes in circles.
MOST_CONTROLS = 140
#: A control that can be reached: one of a group of radios stands for all of them.
CONTROLS = """(scope) => {
  const all = scope.querySelectorAll(
    'input, select, textarea, button, summary, a[href], [tabindex="0"], [contenteditable="true"]',
  );
  const found = [];
  const groups = new Set();
  for (const one of all) {
    const box = one.getBoundingClientRect();
    const hidden = one.closest('[aria-hidden=true]') || one.getAttribute('aria-hidden') === 'true';
    if (one.disabled || one.tabIndex < 0 || hidden || box.width === 0 || one.type === 'hidden') continue;
    if (!one.checkVisibility({ visibilityProperty: true })) continue;
    let stop = one;
    if (one.type === 'radio') {
      if (groups.has(one.name)) continue;
      groups.add(one.name);
      // Tab goes to the one that is chosen.
      stop = scope.querySelector(`input[type=radio][name="${one.name}"]:checked`) ?? one;
    }
    stop.dataset.walked = String(found.length);
    found.push(`${one.tagName} ${one.getAttribute('aria-label') ?? one.labels?.[0]?.textContent ?? one.textContent}`);
  }
  return found;
}"""
#: Which of them has the focus, and whether that is to be seen: a line round it, or round what it is in.
FOCUSED = """() => {
  const one = document.activeElement;
  const radio = one?.type === 'radio'
    && document.querySelector(`input[type=radio][name="${one.name}"][data-walked]`);
  const known = (radio || one)?.dataset?.walked;
  // What is made of another control, such as the radios under a switch, has no place of its own in the list.
  const inside = one?.closest('[data-walking]') !== null;
  const line = (node) => parseFloat(getComputedStyle(node).outlineWidth) >= 2
    && getComputedStyle(node).outlineStyle !== 'none';
  const near = [one, one?.parentElement, one?.nextElementSibling, one?.labels?.[0], one?.parentElement?.parentElement];
  const border = getComputedStyle(one).borderColor !== one?.dataset?.plain;
  return { known, inside, seen: near.some((node) => node && (line(node) || getComputedStyle(node).boxShadow !== 'none')) || border };
}"""


def walked(page: Page, scope: Locator) -> None:
    """Go through a form by Tab: every control of it is reached, and the focus is to be seen on each."""
    expect(scope).to_be_visible()
    names = scope.evaluate(CONTROLS)
    assert names
    scope.evaluate(
        "(scope) => { scope.dataset.walking = 'true'; for (const one of scope.querySelectorAll('[data-walked]'))"
        " one.dataset.plain = getComputedStyle(one).borderColor; }"
    )
    # From the first control on; a dialog begins with one of its own.
    scope.locator("[data-walked='0']").focus()
    reached, unseen, last = {"0"}, [], "0"
    for _ in range(MOST_CONTROLS):
        page.keyboard.press("Tab")
        at = page.evaluate(FOCUSED)
        if not at["inside"]:
            break
        # A day has a stop for each of its parts.
        if at["known"] is None or at["known"] == last:
            continue
        if at["known"] in reached:
            break
        last = at["known"]
        reached.add(at["known"])
        if not at["seen"]:
            unseen.append(names[int(at["known"])])
    missed = [name for number, name in enumerate(names) if str(number) not in reached]
    assert missed == [], f"{page.url}: never reached"
    assert unseen == [], f"{page.url}: the focus is not to be seen"
    # And out again, backwards from where it stands.
    page.keyboard.press("Shift+Tab")


def press(page: Page, scope: Page | Locator, name: str) -> None:
    """Press a button by Enter."""
    button = scope.get_by_role("button", name=re.compile(name)).first
    button.focus()
    expect(button).to_be_focused()
    page.keyboard.press("Enter")


@pytest.fixture
def keyed(contexts: Contexts) -> Iterator[Page]:
    """The demo's rider, who has no mouse."""
    with contexts.lent(viewport=BENCH, reduced_motion="reduce") as context:
        yield sign_in(context.new_page())


@pytest.mark.parametrize(
    ("path", "heading"),
    [
        ("/plan/new", "Plan a test"),
        ("/plan/claim", "Can the maker"),
        ("/plan/size", "How big a pack"),
        ("/forecast", "Will this pack"),
        ("/ride", "Log a ride"),
        ("/ride/memory", "Log a past ride"),
        ("/compare", "Which uses less"),
        ("/compare/seasons", "cold"),
        ("/compare/tides", "goes on"),
        ("/logbook", "tests"),
        ("/account", "account"),
    ],
)
def test_a_page_with_a_form_is_gone_through_by_tab(keyed, path, heading):
    keyed.goto(path)
    keyed.get_by_role("heading", name=re.compile(heading)).first.wait_for()
    folded = keyed.locator("main details:not([open]) > summary")
    for _ in range(folded.count()):
        folded.first.focus()
        keyed.keyboard.press("Enter")
    walked(keyed, keyed.locator("main form").first if path.startswith(("/plan", "/forecast")) else keyed.locator("main"))  # fmt: skip


@pytest.mark.parametrize(
    ("path", "button", "dialog"),
    [
        ("/kit/vehicles", "Add a vehicle", "Add a vehicle"),
        ("/kit/packs", "Add a pack", "Add a pack"),
        ("/kit/riders", "Add a rider", "Add a rider"),
        ("/kit/routes", "Add a route", "Add a route"),
        ("/kit/routes", "Measure a loop", "Measure a loop"),
        ("/kit/routes", "Import GPX", "Import a GPX file"),
    ],
)
def test_a_dialog_is_opened_gone_through_and_left_by_keys(keyed, path, button, dialog):
    keyed.goto(path)
    press(keyed, keyed.locator("main"), button)
    box = keyed.get_by_role("dialog", name=dialog)
    walked(keyed, box)
    keyed.keyboard.press("Escape")
    expect(box).to_be_hidden()
    # Where one was before: the next Tab goes on from there.
    expect(
        keyed.locator("main").get_by_role("button", name=re.compile(button)).first
    ).to_be_focused()


def test_a_result_is_put_right_by_keys(keyed):
    open_test(keyed, "Quay loop")
    for button, dialog in (
        ("Add an entry", "Add an entry"),
        ("^Picture", "The result as a picture"),
    ):
        press(keyed, keyed.locator("main"), button)
        box = keyed.get_by_role("dialog", name=dialog)
        walked(keyed, box)
        keyed.keyboard.press("Escape")
        expect(box).to_be_hidden()
    press(keyed, keyed.get_by_role("region", name="Sheet"), "^Change|^Add")
    walked(keyed, keyed.get_by_role("dialog").last)


def test_what_opens_from_the_account_menu_is_gone_through_by_keys(keyed):
    keyed.goto("/logbook")
    press(keyed, keyed, "^Demo rider")
    keyed.get_by_role("menuitem", name="Settings").wait_for()
    keyed.keyboard.press("ArrowDown")
    keyed.get_by_role("menuitem", name="Settings").focus()
    keyed.keyboard.press("Enter")
    box = keyed.get_by_role("dialog", name="Settings")
    walked(keyed, box)


def test_a_ride_is_logged_from_start_to_result_without_a_mouse(keyed):
    keyed.goto("/ride")
    keyed.get_by_label("Ride name").focus()
    keyed.keyboard.type("By keys alone")
    keyed.keyboard.press("Enter")
    keyed.wait_for_url(re.compile(r"/ride/[0-9a-f-]{36}$"))
    for volts, metres in (("41.5", "0"), ("39.8", "3.1")):
        press(keyed, keyed.locator("main"), "^(First entry|Entry)")
        box = keyed.get_by_role("dialog")
        expect(box).to_be_visible()
        # Digits go where the pad stands; Enter is its Next.
        keyed.keyboard.type(volts)
        press(keyed, box, "Trip")
        keyed.keyboard.type(metres)
        press(keyed, box, "^Save")
        expect(box).to_be_hidden()
    press(keyed, keyed.locator("main"), "^End")
    press(keyed, keyed.get_by_role("dialog"), "^Finished the route")
    press(keyed, keyed.get_by_role("dialog"), "^End the ride")
    press(keyed, keyed.locator("main"), "Read the result")
    keyed.get_by_role("heading", name="How sure, and why").wait_for()
