"""An empty account: three doors, kit made from what the form asks, a first result; a ride from memory."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect


def test_a_newcomer_pastes_a_ride_and_has_a_result_with_kit_made_from_the_form(newcomer: Page):
    newcomer.get_by_role("link", name="Log a past ride").click()
    newcomer.get_by_label("Ride name").fill("Last Sunday")
    newcomer.get_by_role("button", name="Save", exact=True).click()
    expect(newcomer.get_by_text("give it a name").first).to_be_visible()
    newcomer.get_by_label("Its name").fill("The blue one")
    newcomer.get_by_label("The pack’s name").fill("Its pack")
    newcomer.get_by_label("What its label says").fill("36 V 10 Ah")
    expect(newcomer.get_by_text("Understood: 10 cells in series")).to_be_visible()
    first = newcomer.get_by_label("Row 1, Clock")
    first.focus()
    newcomer.evaluate(
        """(text) => {
          const data = new DataTransfer();
          data.setData('text/plain', text);
          document.activeElement.dispatchEvent(
            new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
        }""",
        "Clock\tTrip (mi)\tVolts at rest\tAh\n9:10\t0\t41.8\t0\n9:50\t6.2\t38.9\t3.1\n10:30\t12.1\t36.2\t6.3\n",
    )
    expect(newcomer.get_by_label("Row 3, Trip meter")).to_have_value("12.1")
    newcomer.get_by_label("Row 2, Resting volts").fill("389")
    newcomer.get_by_role("button", name="Save", exact=True).click()
    expect(newcomer.locator("ul[role=alert]")).to_contain_text("Row 2, resting volts")
    newcomer.get_by_label("Row 2, Resting volts").fill("38.9")
    newcomer.get_by_role("button", name="Save", exact=True).click()
    expect(newcomer.get_by_role("heading", level=1)).to_contain_text("watt-hours a mile")
    newcomer.goto("/kit/packs")
    expect(newcomer.get_by_text("Its pack")).to_be_visible()


@pytest.mark.parametrize(
    ("path", "next_one", "then"),
    [
        ("/forecast", "Back to the trip", "Choose a route, or sketch one with its length."),
        ("/plan/new", "Back to the plan", "Choose a route, or sketch one with its length"),
        ("/plan/size", "Back to the size", "Enter the trip on its coldest day."),
    ],
)
def test_a_form_that_needs_kit_makes_it(newcomer: Page, path, next_one, then):
    newcomer.goto(path)
    newcomer.get_by_role("button", name=next_one).click()
    expect(newcomer.get_by_text("give it a name").first).to_be_visible()
    newcomer.get_by_label("Its name").fill("Plover")
    newcomer.get_by_label("The pack’s name").fill("Black box")
    newcomer.get_by_role("button", name=next_one).click()
    expect(newcomer.get_by_text(then)).to_be_visible()
    expect(newcomer.get_by_role("combobox", name="Vehicle")).to_have_value("Plover")


def test_a_newcomer_may_look_round_the_demo_first(newcomer: Page):
    demo = newcomer.get_by_role("region", name="Look round the demo")
    demo.get_by_role("button", name="Open the demo").click()
    expect(newcomer.get_by_role("heading", level=1)).to_contain_text("tests")
    expect(newcomer.get_by_role("region", name="A short walk")).to_be_visible()
    expect(newcomer.get_by_role("button", name="Demo rider")).to_be_visible()


def test_a_ride_is_started_without_any_kit_set_up(newcomer: Page):
    newcomer.goto("/ride")
    newcomer.get_by_label("Its name").fill("Plover")
    newcomer.get_by_label("The pack’s name").fill("Black box")
    newcomer.get_by_role("button", name="Start").click()
    expect(newcomer).to_have_url(re.compile("/ride/[0-9a-f-]{36}$"))
    expect(newcomer.get_by_role("button", name="First entry")).to_be_visible()
