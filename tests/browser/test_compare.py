"""Two tests, and two groups of them, side by side on the page."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect


def ids_of(page: Page) -> dict[str, str]:
    """The demo's tests by title."""
    rows = page.request.get("/api/tests?most=100").json()["items"]
    return {row["title"]: row["id"] for row in rows}


def test_two_tests_are_chosen_by_what_one_wants_to_know_and_judged(demo: Page):
    page = demo
    page.keyboard.press("c")
    expect(page.get_by_role("heading", level=1)).to_have_text("Which uses less, and is it real?")
    for label, title in (("One test", "autumn 2024"), ("The other", "autumn 2026")):
        page.get_by_role("combobox", name=label).fill(title)
        page.get_by_role("option", name=re.compile(title)).click()
    page.get_by_role("button", name="Compare", exact=True).click()
    verdict = page.get_by_role("heading", level=1)
    expect(verdict).to_contain_text(re.compile(r"autumn 2026 holds \d+\s%\sless"))
    expect(page.get_by_role("img", name=re.compile("^Tides over each other"))).to_be_visible()
    expect(page.get_by_role("img", name=re.compile("^as found: "))).to_be_visible()
    runs = page.get_by_role("region", name="Runs")
    expect(runs.get_by_role("row")).to_have_count(3)
    places = page.get_by_role("region", name="At the same places")
    expect(places.get_by_role("rowheader", name="lap 2", exact=True)).to_be_visible()
    expect(page.get_by_role("region", name="To hold against it")).to_contain_text("one run")
    # Another question of the same two is another answer, and Back the one before.
    page.get_by_role("combobox", name="The question").click()
    page.get_by_role("option", name="Which vehicle uses less?").click()
    expect(verdict).not_to_contain_text("holds")
    page.go_back()
    expect(verdict).to_contain_text("holds")


def test_tests_chosen_in_the_logbook_are_dealt_to_two_sides_and_moved(demo: Page):
    page = demo
    found = ids_of(page)
    chosen = [found[f"Quay loop till empty, autumn {year}"] for year in (2024, 2025, 2026)]
    page.goto("/logbook?q=Quay loop till empty, autumn")
    for year in (2024, 2025, 2026):
        page.get_by_role("checkbox", name=re.compile(f"autumn {year}")).check()
    page.get_by_role("region", name="Chosen tests").get_by_role("link", name="Compare").click()
    expect(page).to_have_url(re.compile(r"/compare\?first="))
    side = page.get_by_role("region", name="Side B")
    expect(side.get_by_role("link")).to_have_count(2)
    side.get_by_role("button", name="To A").first.click()
    expect(page.get_by_role("region", name="Side A").get_by_role("link")).to_have_count(2)
    expect(side.get_by_role("link")).to_have_count(1)
    for test_id in chosen:
        assert test_id in page.url


def test_what_cannot_be_compared_says_why(demo: Page):
    page = demo
    one = ids_of(page)["Quay loop till empty, autumn 2024"]
    page.goto(f"/compare?first={one}&second=00000000-0000-4000-8000-000000000000")
    expect(page.get_by_role("alert")).to_be_visible()
    page.goto(f"/compare?first={one}")
    expect(page.get_by_role("heading", level=1)).to_have_text("Which uses less, and is it real?")
