"""The logbook of two thousand tests: scrolled, sorted, filtered, grouped, chosen from."""

from __future__ import annotations

import os
import re
import subprocess
import sys

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import ROOT, database_name

NAME, PASSWORD = "librarian", "two-thousand-tests-kept"
#: As many rows are drawn at most, however many have come.
MOST_DRAWN = 45


@pytest.fixture(scope="module")
def many(address: str) -> str:
    command = [sys.executable, "-m", "tests.browser.many", NAME, PASSWORD]
    environment = {**os.environ, "LIMPET_DB_NAME": database_name()}
    subprocess.run(command, cwd=ROOT, env=environment, check=True)
    return address


@pytest.fixture
def librarian(page: Page, many: str) -> Page:
    page.goto("/")
    page.get_by_label("Name").fill(NAME)
    page.get_by_role("textbox", name="Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("heading", name="2,000 tests").wait_for()
    return page


def rows(page: Page):
    return page.locator("li[data-index]")


def test_two_thousand_tests_are_scrolled_through_a_few_rows_drawn_at_a_time(librarian: Page):
    expect(rows(librarian).first).to_be_visible()
    seen = 0
    while seen < 1990:
        assert rows(librarian).count() <= MOST_DRAWN
        librarian.evaluate("window.scrollTo(0, document.body.scrollHeight)")
        # The next page has come when the list has grown, or its end is drawn.
        librarian.wait_for_function(
            "(before) => Number([...document.querySelectorAll('li[data-index]')].at(-1)?.dataset.index ?? 0) > before",
            arg=seen,
        )
        seen = int(rows(librarian).last.get_attribute("data-index") or 0)
    expect(
        librarian.get_by_text(re.compile("^Quay loop till empty, autumn 2024, ")).last
    ).to_be_attached()
    assert rows(librarian).count() <= MOST_DRAWN


def test_filters_and_order_stand_in_the_address_and_come_back_with_it(librarian: Page):
    librarian.get_by_role("button", name="More filters").click()
    librarian.get_by_role("combobox", name="Season").click()
    librarian.get_by_role("option", name="June to August").click()
    librarian.get_by_role("combobox", name="Tag").click()
    librarian.get_by_role("option", name="quay").click()
    librarian.get_by_role("combobox", name="Order").click()
    librarian.get_by_role("option", name="Longest range").click()
    expect(librarian).to_have_url(re.compile("season=jun_aug.*tag=quay.*sort=range"))
    status = librarian.get_by_role("status").filter(has_text=re.compile(r"\d+ of 2,000"))
    # A tenth of them has the tag, and not all of those are of that season.
    expect(status).to_have_text(re.compile(r"^(\d{1,2}|1\d\d) of 2,000$"))
    shown = status.inner_text()
    librarian.reload()
    expect(status).to_have_text(shown)


#: Types into the search and takes the opened list's choice before anything is drawn in between.
TYPED_AND_CHOSEN = """(option) => {
  const search = document.querySelector('input[aria-label="Search"]');
  const type = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;
  for (const words of ['Q', 'Qu', 'Quay']) {
    type.call(search, words);
    search.dispatchEvent(new Event('input', { bubbles: true }));
  }
  option.click();
}"""


def test_a_second_choice_does_not_undo_a_first_that_is_not_drawn_yet(librarian: Page):
    librarian.get_by_role("combobox", name="Order").click()
    librarian.get_by_role("option", name="Longest range").evaluate(TYPED_AND_CHOSEN)
    expect(librarian).to_have_url(re.compile(r"q=Quay&sort=range"))
    expect(librarian.get_by_role("textbox", name="Search")).to_have_value("Quay")
    librarian.goto("/logbook?q=harbour")
    expect(librarian.get_by_role("textbox", name="Search")).to_have_value("harbour")


def test_groups_have_headings(librarian: Page):
    librarian.goto("/logbook?sort=vehicle")
    expect(librarian.get_by_role("heading", name="Dunlin", level=2)).to_be_visible()
    expect(rows(librarian).nth(1)).to_contain_text("Dunlin")


def test_several_are_chosen_exported_removed_and_had_back(librarian: Page):
    for number in (0, 1, 2):
        rows(librarian).nth(number).get_by_role("checkbox").check()
    bar = librarian.get_by_role("region", name="Chosen tests")
    expect(bar).to_contain_text("3 chosen")
    with librarian.expect_download() as download:
        bar.get_by_role("link", name="Export").click()
    assert download.value.suggested_filename == "range-tests.zip"
    bar.get_by_role("button", name="Remove").click()
    expect(librarian.get_by_role("heading", name="1,997 tests")).to_be_visible()
    librarian.get_by_role("button", name="Undo").click()
    expect(librarian.get_by_role("heading", name="2,000 tests")).to_be_visible()
