"""The practice ride on a phone: out, a stop that settles, the turn, home, and the log beside the truth."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import at_logbook
from tests.browser.roadside import PHONE, over, press

MINUTE_MS = 60_000


@pytest.fixture
def phone(demo: Page) -> Page:
    """The demo's rider on a phone's screen."""
    demo.set_viewport_size(PHONE)
    return demo


def rides(page: Page, minutes: float) -> None:
    """So much later on the ride, which goes thirty times as fast."""
    page.clock.run_for(minutes * MINUTE_MS / 30)


def volts(page: Page) -> float:
    """What the display shows."""
    shown = page.get_by_role("region", name="What Turnstone shows").locator("dd").first
    return float(shown.inner_text().split()[0])


def test_a_ride_is_rehearsed_and_its_log_stands_beside_the_truth(phone: Page):
    phone.clock.install()
    phone.goto("/ride")
    phone.get_by_role("link", name="Practice").click()
    phone.get_by_role("button", name=re.compile("^First entry")).click()
    press(phone, f"{volts(phone)}")
    over(phone).get_by_role("button", name="Save", exact=True).click()
    phone.get_by_role("button", name=re.compile("^Ride")).click()
    rides(phone, 10)
    pulling = volts(phone)
    phone.get_by_role("button", name=re.compile("^Stop")).click()
    rides(phone, 4)
    assert volts(phone) > pulling + 0.5
    phone.get_by_role("button", name=re.compile("^Entry")).click()
    settled = volts(phone)
    press(phone, f"{settled}")
    over(phone).get_by_role("button", name="Next").click()
    press(phone, "2.4")
    over(phone).get_by_role("button", name="Save", exact=True).click()
    expect(phone.get_by_role("status").get_by_text(re.compile("^Turn back"))).to_be_visible()
    expect(phone.get_by_text(re.compile(rf"Last: .*{settled}\sV"))).to_be_visible()
    phone.get_by_role("button", name=re.compile("^Go on")).click()
    phone.get_by_role("button", name=re.compile("^Turn")).click()
    rides(phone, 5)
    expect(phone.get_by_text(re.compile("Heading home"))).to_be_visible()
    rides(phone, 40)
    expect(phone.get_by_text(re.compile("^Home after"))).to_be_visible()
    phone.get_by_role("button", name=re.compile("^End")).click()
    expect(phone.get_by_role("heading", level=1)).to_contain_text(re.compile("Home with .* left"))
    known = phone.get_by_role("table").first
    expect(known.get_by_role("row")).to_have_count(4)
    expect(phone.get_by_role("img", name=re.compile("^Energy left over distance"))).to_be_visible()
    expect(phone.get_by_role("heading", name="What hurried readings cost")).to_be_visible()
    lessons = phone.get_by_role("list").last.get_by_role("listitem")
    expect(lessons).to_have_count(5)
    expect(lessons.first).to_contain_text("Settle before you read: kept")
    phone.get_by_role("button", name="Ride it again").click()
    expect(phone.get_by_role("button", name=re.compile("^First entry"))).to_be_visible()
    phone.get_by_role("link", name=re.compile("Leave")).click()
    phone.get_by_role("heading", name="Log a ride").wait_for()


def test_it_is_ridden_without_signal_and_judged_when_there_is_one(phone: Page):
    at_logbook(phone)
    phone.clock.install()
    phone.keyboard.press("Control+k")
    phone.get_by_label("Find a place or a test").fill("Practice")
    phone.get_by_role("button", name=re.compile("^Practice")).click()
    ride = phone.get_by_role("button", name=re.compile("^Ride"))
    ride.wait_for()
    phone.context.set_offline(True)
    # Left by Back and come to by address: it begins anew.
    phone.go_back()
    phone.get_by_role("heading", name="tests").wait_for()
    phone.go_forward()
    ride.click()
    rides(phone, 3)
    phone.get_by_role("button", name=re.compile("^End")).click()
    expect(phone.get_by_role("alert")).to_be_visible()
    phone.context.set_offline(False)
    phone.get_by_role("button", name="Try again").click()
    expect(phone.get_by_role("heading", level=1)).to_contain_text("Ended after")
