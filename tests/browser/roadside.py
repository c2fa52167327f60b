"""A thumb at the roadside: starting a ride, the pad, what is noted with one tap."""

from __future__ import annotations

import re
import time
from typing import Any

from playwright.sync_api import Browser, BrowserContext, Locator, Page, expect

BENCH = {"width": 1280, "height": 800}
PHONE = {"width": 390, "height": 844}
#: How a context is a phone.
PHONE_HOW: dict[str, Any] = {"viewport": PHONE, "has_touch": True}
#: What the pad calls a step.
STEPS = {"rest": "Volts", "pulling": "Volts"}


def start_ride(page: Page, title: str = "") -> str:
    """Begin a ride with the kit of last time; its address."""
    page.goto("/ride")
    if title:
        page.get_by_label("Ride name").fill(title)
    page.get_by_role("button", name=re.compile("^Start with")).click()
    # A slow machine makes the ride, its kit and its table ready first.
    page.get_by_role("button", name="First entry").wait_for()
    return page.url


def over(page: Page) -> Locator:
    """What lies open over the ride."""
    return page.get_by_role("dialog")


def press(page: Page, text: str) -> None:
    """Keys of the pad, one after the other."""
    for key in text:
        name = {".": "Point", "-": "Minus"}.get(key, key)
        over(page).get_by_role("button", name=name, exact=True).click()


def step(page: Page, name: str) -> None:
    """Go to a step of the pad; one that this vehicle has not is added."""
    steps = over(page).get_by_role("navigation", name="What to read")
    steps.wait_for()
    there = steps.get_by_role("button", name=re.compile(f"^{name}"))
    if there.count() == 0:
        steps.get_by_role("button", name=re.compile("^More")).click()
        over(page).get_by_role("button", name=name, exact=True).click()
    else:
        there.click()


def note(page: Page, **fields: str) -> None:
    """An entry by the pad: its steps by name, `_` for a space; volts are `Volts`."""
    page.get_by_role("button", name=re.compile("^(First entry|Entry)")).click()
    for name, text in fields.items():
        step(page, name.replace("_", " "))
        press(page, text)
    store(page)


def store(page: Page) -> None:
    """Store what is open, and see it close."""
    over(page).get_by_role("button", name="Save", exact=True).click()
    expect(over(page)).to_be_hidden()


def lap(page: Page) -> Locator:
    """The key that counts laps."""
    return page.get_by_role("button", name=re.compile("^Lap "))


def status(page: Page) -> Locator:
    """How much is on this device alone, and why."""
    return page.get_by_role("banner").get_by_role("status")


def kept_here(page: Page, table: str, holds: str) -> None:
    """Wait until this device keeps a row of a table that a test in the page's language holds for."""
    _until(page, table, f"rows.some({holds})")


def nothing_waits(page: Page) -> None:
    """Wait until all that was noted on this device has gone: it may be the background that sends."""
    _until(page, "points", "rows.length === 0")
    _until(page, "acts", "rows.length === 0")


def all_sent(page: Page) -> None:
    """The server has all of it, and the ride says so."""
    nothing_waits(page)
    expect(page.get_by_text("All saved")).to_be_visible()


def reckoned(page: Page, test_id: str) -> dict[str, Any]:
    """A test once the server has the result of all that was sent; each look is a request."""
    by = time.monotonic() + 90
    while time.monotonic() < by:
        test = page.request.get(f"/api/tests/{test_id}", max_retries=3).json()
        if test["computed"] == "fresh":
            return test
    raise AssertionError(f"the result is {test['computed']}: {test['trouble']}")


def _until(page: Page, table: str, holds: str) -> None:
    held = page.evaluate(
        f"""async () => {{
          let rows = [];
          const all = () => new Promise((done) => {{
            const open = indexedDB.open('limpet-roadside');
            open.onsuccess = () => {{
              const all = open.result.transaction('{table}').objectStore('{table}').getAll();
              all.onsuccess = () => {{ open.result.close(); done(all.result); }};
            }};
          }});
          for (let turn = 0; turn < 1500; turn += 1) {{
            rows = await all();
            if ({holds}) return null;
            await new Promise(requestAnimationFrame);
          }}
          return rows.map(({{ kind, refused }}) => [kind, refused]);
        }}"""
    )
    assert held is None, f"{table} holds {held}, never {holds}"


def phone_of(browser: Browser, address: str, **more) -> BrowserContext:
    """A phone; it keeps the application, as a real one does, where that is what is looked at."""
    known = {"service_workers": "block", **more}
    return browser.new_context(base_url=address, locale="en-GB", **PHONE_HOW, **known)


def later(page: Page, minutes: int) -> None:
    """So much later by the phone's clock."""
    page.clock.fast_forward(minutes * 60_000)
