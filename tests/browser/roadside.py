"""A thumb at the roadside: starting a ride, the pad, what is noted with one tap."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, Page, expect

PHONE = {"width": 390, "height": 844}
#: What the pad calls a step.
STEPS = {"rest": "Volts", "pulling": "Volts"}


def start_ride(page: Page, title: str = "") -> str:
    """Begin a ride with the kit of last time; its address."""
    page.goto("/ride")
    if title:
        page.get_by_label("What is it?").fill(title)
    page.get_by_role("button", name=re.compile("^Start with")).click()
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
    over(page).get_by_role("button", name="Store").click()
    expect(over(page)).to_be_hidden()


def lap(page: Page) -> Locator:
    """The key that counts laps."""
    return page.get_by_role("button", name=re.compile("^Lap "))


def status(page: Page) -> Locator:
    """How much is on this device alone, and why."""
    return page.get_by_role("banner").get_by_role("status")
