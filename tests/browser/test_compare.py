"""Two tests, and two groups of them, side by side on the page."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import at_logbook


def unfold(page: Page, *titles: str) -> None:
    """Open parts that are closed when a comparison opens."""
    for title in titles:
        part = page.get_by_role("region", name=title, exact=True)
        expect(part).to_be_hidden()
        page.get_by_role("heading", name=title, exact=True).click()
        expect(part).to_be_visible()


def ids_of(page: Page) -> dict[str, str]:
    """The demo's tests by title."""
    rows = page.request.get("/api/tests?most=100", max_retries=3).json()["items"]
    return {row["title"]: row["id"] for row in rows}


def test_two_tests_are_chosen_by_what_one_wants_to_know_and_judged(demo: Page):
    at_logbook(demo)
    page = demo
    page.keyboard.press("c")
    expect(page.get_by_role("heading", level=1)).to_have_text(
        "Which uses less, and is the difference real?"
    )
    for label, title in (("One test", "autumn 2024"), ("The other", "autumn 2026")):
        page.get_by_role("combobox", name=label).fill(title)
        page.get_by_role("option", name=re.compile(title)).click()
    page.get_by_role("button", name="Compare", exact=True).click()
    verdict = page.get_by_role("heading", level=1)
    expect(verdict).to_contain_text(re.compile(r"autumn 2026 has kept \d+%\sless"))
    expect(page.get_by_role("img", name=re.compile("^Tides over each other"))).to_be_visible()
    bar = page.get_by_role("img", name=re.compile(r"^Difference of B from A: −\d+% \(−"))
    expect(bar).to_be_visible()
    expect(bar).to_contain_text("no difference")
    unfold(
        page, "Reasons and caveats", "Range, time, cost and trips", "What explains the difference",
        "Every ride", "At the same places",
    )  # fmt: skip
    expect(page.get_by_role("img", name=re.compile("^as ridden: "))).to_be_visible()
    runs = page.get_by_role("region", name="Every ride")
    expect(runs.get_by_role("row")).to_have_count(3)
    places = page.get_by_role("region", name="At the same places", exact=True)
    expect(places.get_by_role("rowheader", name="lap 2", exact=True)).to_be_visible()
    means = page.get_by_role("region", name="Range, time, cost and trips")
    expect(
        means.get_by_role("row").filter(has_text="plan on: the bad day, with 20%")
    ).to_contain_text(re.compile(r"\d+\.\d mi.*\d+\.\d mi"))
    expect(means.get_by_role("row").filter(has_text="Lighthouse road")).to_be_visible()
    expect(page.get_by_role("region", name="Reasons and caveats")).to_contain_text("One ride each")
    # Another question of the same two is another answer, and Back the one before.
    page.get_by_role("combobox", name="What are you testing?").click()
    page.get_by_role("option", name="Which vehicle uses less?").click()
    expect(verdict).not_to_contain_text("has kept")
    page.go_back()
    expect(verdict).to_contain_text("has kept")


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
    expect(page.get_by_role("heading", level=1)).to_have_text(
        "Which uses less, and is the difference real?"
    )


def test_a_difference_that_is_not_shown_is_settled_with_two_keys(demo: Page):
    page = demo
    found = ids_of(page)
    one, two = (found[f"Quay loop till empty, {season} 2026"] for season in ("spring", "autumn"))
    page.goto(f"/compare?first={one}&second={two}&question=repeat")
    expect(page.get_by_role("heading", level=1)).to_contain_text("No clear difference")
    page.get_by_role("button", name=re.compile(r"^Settle it: \d more rides of each")).click()
    series = page.get_by_role("region", name="Rides that would settle it")
    rides = series.get_by_role("listitem")
    expect(rides.first).to_have_text(re.compile(r"^A: Knot on Plover-1, ride 1 of \d+$"))
    expect(rides.nth(1)).to_have_text(re.compile("^B: "))
    expect(rides.nth(2)).to_have_text(re.compile("^B: "))
    with page.expect_download() as download:
        series.get_by_role("link", name="Calendar file").click()
    text = download.value.path().read_text()
    assert text.count("BEGIN:VEVENT") == rides.count()
    # Each is a plan like any other, and knows what it belongs to.
    rides.first.get_by_role("link").click()
    expect(page).to_have_url(re.compile(r"/plan/"))
    again = page.get_by_role("region", name="Rides that would settle it")
    expect(again.get_by_role("listitem")).to_have_count(rides.count())
    again.get_by_role("link", name="Compare those ridden").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("No clear difference")


def test_ageing_says_what_is_left_by_its_tidelines_and_leads_to_when_it_is_worn(demo: Page):
    page = demo
    page.goto("/compare")
    page.get_by_role("link", name="Ageing").click()
    page.get_by_role("combobox", name="The pack").click()
    page.get_by_role("option", name="Plover-1").click()
    expect(page.get_by_role("heading", level=1)).to_have_text(
        re.compile(r"^Plover-1\. It gives \d+% of what it gave first \(\d+")
    )
    years = page.get_by_role("region", name="Its tests, oldest first").get_by_role("listitem")
    expect(years).to_have_count(5)
    # The oldest first, and each ride of a fading pack shorter than the first.
    expect(years.first).to_contain_text(re.compile("2024.*14.4"))
    expect(years.last).to_contain_text(re.compile("2026.*11.4"))
    expect(years.last.get_by_role("img", name=re.compile("^Tideline"))).to_be_visible()
    expect(page.get_by_role("img", name=re.compile("^Capacity at 25 °C"))).to_be_visible()
    page.get_by_text("by cycles").click()
    expect(page.get_by_role("img", name=re.compile("over equivalent full cycles"))).to_be_visible()
    page.get_by_role("link", name="The pack’s own page").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Plover-1")
    worn = page.get_by_role("table").filter(has_text="months after its first test")
    expect(worn.get_by_role("rowheader", name=re.compile(r"^80%$"))).to_be_visible()
    expect(worn.get_by_role("row").nth(1)).to_contain_text(re.compile(r"\d+\.\d mi"))
    page.go_back()
    expect(page.get_by_role("heading", level=1)).to_contain_text("It gives")


def test_seasons_say_what_the_cold_costs_and_how_much_of_it_is_what(demo: Page):
    page = demo
    page.goto("/compare/ageing")
    page.get_by_role("link", name="Seasons").click()
    # It opens on a vehicle that was ridden in several.
    expect(page.get_by_role("heading", level=1)).to_have_text(
        re.compile("colder|no clear difference")
    )
    page.get_by_role("combobox", name="The vehicle").click()
    page.get_by_role("option", name="Whimbrel").click()
    expect(page.get_by_role("heading", level=1)).to_have_text(
        re.compile(r"^Whimbrel\. At about \d+ mph 10 °C colder cost \d+% of the range")
    )
    causes = page.get_by_role("table").filter(has_text="changes it by")
    for cause in (
        "denser air",
        "stiffer tyres",
        "the pack gives less",
        re.compile("^not explained"),
    ):
        expect(causes.get_by_role("rowheader", name=cause)).to_be_visible()
    page.get_by_text("Consumption", exact=True).click()
    expect(causes.get_by_role("rowheader", name="the pack gives less")).to_be_hidden()
    expect(page.get_by_role("heading", level=1)).to_contain_text("no clear difference")
    # One temperature is no season, and says so.
    page.get_by_role("combobox", name="The vehicle").click()
    page.get_by_role("option", name="Knot").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("another season")


def test_the_tide_table_is_of_the_kit_and_prints_as_a_page_or_a_card(demo: Page):
    page = demo
    page.add_init_script("window.print = () => { window.printed = (window.printed ?? 0) + 1; }")
    page.goto("/compare/tides")
    flat = page.get_by_role("region", name="Flat", exact=True)
    expect(flat.get_by_role("row")).to_have_count(6)
    floors = [int(text) for text in flat.get_by_role("row").nth(3).locator("b").all_inner_texts()]
    assert len(floors) == 5
    assert floors == sorted(floors, reverse=True), "faster is less far"
    assert floors[0] > floors[-1] > 0
    card = page.get_by_role("region", name="The card")
    expect(card).to_contain_text("Not an instrument")
    page.get_by_role("combobox", name="On the card").click()
    page.get_by_role("option", name="hilly").click()
    expect(card.get_by_role("heading")).to_contain_text("hilly")
    page.get_by_role("button", name="Print the card").click()
    page.wait_for_function("() => window.printed === 1")
    page.emulate_media(media="print")
    expect(card).to_be_visible()
    expect(flat).to_be_hidden()
    page.emulate_media(media="screen")
    page.get_by_role("button", name="Print the page").click()
    page.wait_for_function("() => window.printed === 2")
    page.emulate_media(media="print")
    expect(flat).to_be_visible()
    expect(card).to_be_hidden()
    page.emulate_media(media="screen")
    page.get_by_role("combobox", name="Vehicle").click()
    page.get_by_role("option", name="Whimbrel").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Whimbrel")
    expect(page).to_have_url(re.compile("vehicle="))


def test_judged_blind_the_names_come_after_what_one_said(demo: Page):
    page = demo
    page.goto("/compare")
    for label, title in (("One test", "hub motor, run 1"), ("The other", "geared motor, run 1")):
        page.get_by_role("combobox", name=label).fill(title)
        page.get_by_role("option", name=re.compile(title)).click()
    page.get_by_role("checkbox", name=re.compile("^Hide which is which")).check()
    page.get_by_role("button", name="Compare", exact=True).click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("hidden")
    expect(page.get_by_role("img", name=re.compile("^Tides over each other"))).to_be_visible()
    expect(page.get_by_role("main")).not_to_contain_text("motor")
    page.get_by_role("button", name="About the same").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Ruff, geared motor")
    expect(page.get_by_text("The evidence disagrees.")).to_be_visible()
    unfold(page, "Where the difference arises")
    along = page.get_by_role("region", name="Where the difference arises")
    expect(along).to_contain_text(re.compile(r"B had used \d+ Wh less"))
    expect(along.get_by_role("img", name=re.compile("Wh after"))).to_be_visible()


def test_what_one_wants_to_know_is_answered_with_the_tests_that_can_tell(demo: Page):
    page = demo
    page.goto("/compare")
    page.get_by_role("combobox", name="What do you want to know?").click()
    page.get_by_role("option", name="Which vehicle uses less?").click()
    offers = page.get_by_role("region", name="Tests that could show it")
    motors = page.get_by_role("link", name=re.compile("motor against Ruff"))
    expect(offers.get_by_role("listitem").filter(has=motors)).to_contain_text(
        "2 rides against 2 rides"
    )
    motors.click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Ruff, geared motor uses")
    page.goto("/compare")
    page.get_by_role("combobox", name="What do you want to know?").click()
    page.get_by_role("option", name="How much does cold cost?").click()
    page.get_by_role("link", name=re.compile("^How much cold costs")).click()
    expect(page).to_have_url(re.compile("/compare/seasons"))
