"""What to plan on with its clauses, and a result that is another since Limpet learned."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import connected, database_name, open_test

#: As an older core left it: a fifth further, and worked out with no lesson.
OLDER = """
    UPDATE {base}.results_testresult SET core = 'an older core', lessons = 0,
        figures = JSON_SET(figures, '$.value.range_to_cutoff.value',
            1.2 * JSON_VALUE(figures, '$.value.range_to_cutoff.value'))
    WHERE test_id = %s
"""


def test_a_promise_says_for_which_weather_and_how_long(demo: Page):
    open_test(demo, "Quay loop, to cut-off")
    promise = demo.get_by_role("region", name="What to plan on")
    expect(promise).to_contain_text(
        re.compile(r"when it is 6 °C to 22 °C, for 6 months after this ride or 60 full charges")
    )
    table = promise.get_by_role("table")
    cells = table.get_by_role("cell").all_inner_texts()[1:]
    assert len(cells) == 5
    miles = [float(cell) for cell in cells]
    assert miles == sorted(miles)
    assert miles[0] < miles[-1]
    promise.get_by_role("button", name=re.compile("Plan on")).click()
    dialog = demo.get_by_role("dialog")
    expect(dialog).to_contain_text("what the pack may lose while the promise is for")
    demo.keyboard.press("Escape")
    expect(dialog).to_be_hidden()


def test_a_ride_of_long_ago_is_to_be_ridden_again(demo: Page):
    demo.clock.install(time="2026-06-01T10:00:00Z")
    open_test(demo, "Quay loop, to cut-off")
    promise = demo.get_by_role("region", name="What to plan on")
    expect(promise).not_to_contain_text("Ride it again")
    demo.clock.set_fixed_time("2027-06-01T10:00:00Z")
    demo.reload()
    expect(promise).to_contain_text("Ride it again")


def test_a_result_that_changed_says_so_until_it_was_seen(demo: Page):
    open_test(demo, "Peat track with the parcel box")
    test_id = demo.url.rpartition("/")[2]
    note = demo.get_by_role("complementary", name="What changed in this result")
    expect(note).to_have_count(0)
    with connected() as cursor:
        assert cursor.execute(OLDER.format(base=database_name()), [test_id.replace("-", "")]) or (
            cursor.execute(OLDER.format(base=database_name()), [test_id])
        )
    demo.reload()
    expect(note).to_contain_text(re.compile(r"Range to cut-off: was .*, now "))
    note.get_by_text("Why").click()
    expect(note.get_by_role("listitem").last).to_be_visible()
    note.get_by_role("button", name="Got it").click()
    expect(note).to_have_count(0)
    demo.reload()
    demo.get_by_role("heading", name="How sure, and why").wait_for()
    expect(note).to_have_count(0)
