"""Nothing is lost at the roadside: no signal, a signal that hangs, a refusal, a dead phone, two phones."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import BrowserContext, Page, Route, expect

from tests.browser.conftest import enter_demo
from tests.browser.contexts import Contexts
from tests.browser.roadside import (
    PHONE_HOW,
    all_sent,
    kept_here,
    lap,
    note,
    nothing_waits,
    over,
    press,
    start_ride,
    step,
    store,
)


def hangs(page: Page) -> None:
    """From now on nothing of the API is answered, and nothing fails."""
    page.route("**/api/**", lambda route: None)


def answers(page: Page, status: int, path: str = "**/api/tests/**/entries/**") -> None:
    """Changes are answered with a failure."""

    def fail(route: Route) -> None:
        if route.request.method == "GET":
            route.continue_()
        else:
            body = '{"code": "x", "message": "Not like this.", "fields": {}, "faults": []}'
            route.fulfill(status=status, content_type="application/json", body=body)

    page.route(path, fail)


def test_nothing_waits_for_a_signal_that_hangs(rider: Page):
    start_ride(rider, "A hanging signal")
    note(rider, Volts="415", Trip_meter="0")
    all_sent(rider)
    hangs(rider)
    note(rider, Volts="401", Trip_meter="3.1")
    for count in (1, 2):
        lap(rider).click()
        expect(rider.get_by_text(f"{count} so far")).to_be_visible()
    expect(rider.get_by_role("button", name=re.compile("^Last: lap"))).to_be_visible()
    rider.get_by_role("button", name=re.compile("^Stop")).click()
    expect(rider.get_by_role("button", name=re.compile("^Go on"))).to_be_visible()
    expect(rider.get_by_text(re.compile("^4 waiting"))).to_be_visible()
    rider.unroute("**/api/**")
    all_sent(rider)
    expect(rider.get_by_text("5 entries")).to_be_visible()
    expect(rider.get_by_text("2 so far")).to_be_visible()


def test_a_whole_ride_without_signal_from_start_to_end(installed: Page):
    rider = installed
    rider.goto("/ride")
    rider.get_by_role("button", name=re.compile("^Start with")).wait_for()
    kept_here(rider, "cache", "(row) => row.key === 'riders'")
    rider.context.set_offline(True)
    rider.reload()
    where = start_ride(rider, "Nobody answers")
    note(rider, Volts="415", Trip_meter="0")
    # Nobody was ever asked: the line is of start values, says so, and moves with what is read.
    line = rider.get_by_role("button", name=re.compile("Why, and what else"))
    expect(line).to_contain_text("from start values: a wide guess")
    before = line.inner_text()
    note(rider, Volts="398", Trip_meter="4.2")
    expect(line).not_to_have_text(before)
    expect(line).to_contain_text("from start values: a wide guess")
    line.click()
    expect(over(rider).get_by_role("table", name="What you could do")).to_be_visible()
    over(rider).get_by_role("button", name="Back", exact=True).click()
    rider.reload()
    expect(line).to_contain_text("from start values: a wide guess")
    expect(rider.get_by_text("2 entries")).to_be_visible()
    lap(rider).click()
    expect(rider.get_by_text("3 entries")).to_be_visible()
    rider.get_by_role("button", name="Remove").click()
    expect(rider.get_by_text("2 entries")).to_be_visible()
    rider.get_by_role("button", name="End", exact=True).click()
    rider.get_by_label("Resting volts").fill("38,2")
    rider.get_by_label("Trip meter").fill("8.1 mi")
    rider.get_by_role("button", name="End the ride").click()
    expect(rider.get_by_role("button", name="Read the result")).to_be_visible()
    # The closed tab, the dead phone.
    rider.goto("/ride")
    rider.goto(where)
    expect(rider.get_by_text(re.compile(r"^\d waiting on this phone, no signal"))).to_be_visible()
    expect(rider.get_by_role("button", name="Read the result")).to_be_visible()
    rider.context.set_offline(False)
    all_sent(rider)
    rider.get_by_role("button", name="Read the result").click()
    expect(rider.get_by_role("heading", level=1)).to_contain_text("watt-hours a mile")
    kept = rider.request.get(f"/api/tests/{where.rsplit('/', 1)[-1]}", max_retries=3).json()
    assert [entry["kind"] for entry in kept["entries"]] == ["start", "checkpoint", "end"]
    assert kept["entries"][-1]["trip_m"] == pytest.approx(8.1 * 1609.344)
    # The last result is read without signal, too, and every place says what can be opened.
    kept_here(rider, "cache", f"(row) => row.key === 'test {where.rsplit('/', 1)[-1]}'")
    rider.context.set_offline(True)
    rider.reload()
    expect(rider.get_by_role("heading", level=1)).to_contain_text("watt-hours a mile")
    rider.get_by_role("navigation", name="Places").get_by_role("link", name="Logbook").last.click()
    expect(rider.get_by_text("You’re offline. Logbook needs a signal.")).to_be_visible()
    saved = rider.get_by_role("navigation", name="Saved on this device")
    saved.get_by_role("link", name="Nobody answers").click()
    expect(rider.get_by_role("heading", level=1)).to_contain_text("watt-hours a mile")


def test_a_planned_ride_that_begins_without_signal_is_followed_from_its_plan(installed: Page):
    rider = installed
    rider.goto("/ride")
    planned = rider.get_by_role("button", name="Start: Lighthouse and back")
    planned.wait_for()
    plans = rider.request.get("/api/plans", max_retries=3).json()
    plan = next(
        one["id"]
        for one in plans
        if one["title"].startswith("Lighthouse and back") and one["test_id"] is None
    )
    kept_here(rider, "cache", f"(row) => row.key === 'plan {plan} follow' && row.value.table")
    rider.context.set_offline(True)
    rider.reload()
    planned.click()
    expect(rider.get_by_text("Read the resting volts")).to_be_visible()
    note(rider, Volts="415", Trip_meter="0")
    line = rider.get_by_role("button", name=re.compile("Why, and what else"))
    expect(line).to_contain_text("Worked out on this phone")
    before = line.inner_text()
    note(rider, Volts="382", Trip_meter="3.1")
    expect(rider.get_by_text("3.1 mi").first).to_be_visible()
    expect(line).not_to_have_text(before)
    line.click()
    expect(over(rider).get_by_role("table", name="What you could do")).to_be_visible()


def test_what_is_kept_goes_out_wherever_one_is_by_then(installed: Page):
    rider = installed
    where = start_ride(rider, "From elsewhere")
    rider.context.set_offline(True)
    note(rider, Volts="415", Trip_meter="0")
    rider.get_by_role("link", name=re.compile("^Leave")).click()
    rider.context.set_offline(False)
    nothing_waits(rider)
    rider.goto(where)
    all_sent(rider)


@pytest.mark.parametrize(
    ("status", "words", "sentence"),
    [
        (503, "the server has a problem", "has a problem at the moment"),
        (429, "the server has a problem", "keeps trying"),
    ],
)
def test_a_failing_server_is_not_called_no_signal(rider: Page, status, words, sentence):
    start_ride(rider, "It fails")
    all_sent(rider)
    answers(rider, status)
    note(rider, Volts="415")
    said = rider.get_by_role("button", name=f"1 waiting on this phone, {words}")
    said.click()
    expect(over(rider)).to_contain_text(sentence)
    expect(over(rider)).to_contain_text("start")


def test_a_lapsed_sign_in_keeps_the_ride_and_asks_only_to_come_back(rider: Page):
    where = start_ride(rider, "Signed out meanwhile")
    all_sent(rider)
    rider.context.clear_cookies()
    note(rider, Volts="415", Trip_meter="0")
    rider.get_by_role("button", name="1 waiting on this phone, signed out").click()
    expect(over(rider)).to_contain_text("You have been signed out")
    rider.go_back()
    # The ride goes on; every other place says what happened.
    lap(rider).click()
    expect(rider.get_by_text("1 so far")).to_be_visible()
    rider.goto("/logbook")
    expect(rider.get_by_role("heading", name="You have been signed out.")).to_be_visible()
    expect(rider.get_by_text("2 things that you noted are saved")).to_be_visible()
    rider.get_by_role("button", name="Open the demo again").click()
    rider.get_by_role("heading", name="tests").wait_for()
    rider.goto(where)
    all_sent(rider)
    expect(rider.get_by_text("2 entries")).to_be_visible()


def test_a_refused_entry_stays_beside_its_reason_until_it_is_put_right(rider: Page):
    start_ride(rider, "A refusal")
    note(rider, Volts="415", Trip_meter="0")
    # Further than any odometer of such a vehicle: the server takes no such thing.
    rider.get_by_role("button", name=re.compile("^Entry")).click()
    step(rider, "Trip meter")
    press(rider, "9999999")
    store(rider)
    told = rider.get_by_role("button", name=re.compile("An entry was not saved"))
    expect(told).to_contain_text("Trip meter is")
    expect(rider.get_by_text("1 not saved")).to_be_visible()
    rider.reload()
    told.click()
    expect(over(rider)).to_contain_text("Not saved: entry")
    over(rider).get_by_role("button", name="Correct").click()
    step(rider, "Trip meter")
    expect(over(rider).get_by_label("Trip meter")).to_contain_text("9999999")
    for _ in range(7):
        over(rider).get_by_role("button", name="One back").click()
    press(rider, "2.2")
    over(rider).get_by_role("button", name="Save", exact=True).click()
    all_sent(rider)
    expect(rider.get_by_text("2 entries")).to_be_visible()


def test_back_closes_what_is_open_and_loses_nothing_typed(rider: Page):
    where = start_ride(rider, "Back and forth")
    rider.get_by_role("button", name="First entry").click()
    press(rider, "41.7")
    rider.go_back()
    expect(over(rider)).to_be_hidden()
    expect(rider).to_have_url(where)
    rider.reload()
    rider.get_by_role("button", name="First entry").click()
    expect(over(rider).get_by_label("Resting volts")).to_contain_text("41.7")
    rider.keyboard.press("Escape")
    expect(over(rider)).to_be_hidden()
    for name in ("Event", "End"):
        key = rider.get_by_role("button", name=name, exact=True)
        if key.is_enabled():
            key.click()
            over(rider).wait_for()
            rider.go_back()
            expect(over(rider)).to_be_hidden()


def test_the_background_sends_when_no_page_is_open(installed: Page, address: str):
    rider = installed
    where = start_ride(rider, "In a pocket")
    all_sent(rider)
    rider.context.set_offline(True)
    note(rider, Volts="41.6", Trip_meter="0")
    expect(rider.get_by_text(re.compile("^1 waiting"))).to_be_visible()
    # The page is left for one of the same house that sends nothing.
    rider.goto("about:blank")
    rider.context.set_offline(False)
    rider.goto("/healthz")
    browser = rider.context.new_cdp_session(rider)
    found: list[str] = []
    browser.on(
        "ServiceWorker.workerRegistrationUpdated",
        lambda told: found.extend(one["registrationId"] for one in told["registrations"]),
    )
    browser.send("ServiceWorker.enable")
    while not found:
        rider.evaluate("() => new Promise(requestAnimationFrame)")
    browser.send(
        "ServiceWorker.dispatchSyncEvent",
        {"origin": address, "registrationId": found[0], "tag": "limpet-send", "lastChance": False},
    )
    nothing_waits(rider)
    kept = rider.request.get(f"/api/tests/{where.rsplit('/', 1)[-1]}", max_retries=3).json()[
        "entries"
    ]
    assert [entry["voltage_rest_v"] for entry in kept] == [41.6]


@pytest.fixture
def second_phone(contexts: Contexts) -> Iterator[BrowserContext]:
    """Another phone of the same rider's."""
    with contexts.lent(**PHONE_HOW) as context:
        yield context


def test_two_phones_on_one_ride_come_together(rider: Page, second_phone: BrowserContext):
    where = start_ride(rider, "Two of us")
    note(rider, Volts="41.6", Trip_meter="0")
    all_sent(rider)
    helper = enter_demo(second_phone.new_page())
    helper.goto(where)
    expect(helper.get_by_text("1 entry")).to_be_visible()
    rider.context.set_offline(True)
    lap(rider).click()
    note(helper, Volts="39.9", Trip_meter="2.2")
    expect(helper.get_by_text("2 entries")).to_be_visible()
    rider.context.set_offline(False)
    all_sent(rider)
    expect(rider.get_by_text("3 entries")).to_be_visible()
    helper.reload()
    expect(helper.get_by_text("3 entries")).to_be_visible()
    expect(helper.get_by_text("1 so far")).to_be_visible()


def test_two_versions_of_an_entry_are_both_shown_and_one_is_chosen(
    rider: Page, second_phone: BrowserContext
):
    where = start_ride(rider, "Two versions")
    note(rider, Volts="41.6")
    all_sent(rider)
    helper = enter_demo(second_phone.new_page())
    helper.goto(where)
    rider.context.set_offline(True)
    for page, volts in ((rider, "41.1"), (helper, "40.7")):
        page.get_by_role("button", name=re.compile("^Last: start")).click()
        for _ in "41.6":
            over(page).get_by_role("button", name="One back").click()
        press(page, volts)
        store(page)
    all_sent(helper)
    rider.context.set_offline(False)
    rider.get_by_role("button", name=re.compile("changed on another device")).click()
    expect(over(rider)).to_contain_text(re.compile(r"Here: start .*41\.1\sV"))
    expect(over(rider)).to_contain_text(re.compile(r"There: start .*40\.7\sV"))
    over(rider).get_by_role("button", name="Keep this one").click()
    over(rider).get_by_role("button", name="Back").click()
    all_sent(rider)
    kept = rider.request.get(f"/api/tests/{where.rsplit('/', 1)[-1]}", max_retries=3).json()[
        "entries"
    ][0]
    assert (kept["voltage_rest_v"], kept["changes"]) == (41.1, 2)


def test_a_phone_whose_clock_is_two_hours_ahead_is_told(rider: Page):
    start_ride(rider, "Ahead of its time")
    rider.clock.install()
    rider.clock.fast_forward("02:00:00")
    note(rider, Volts="41.6")
    # Other questions may stand beside it.
    expect(rider.get_by_text(re.compile("clock (is 2.0 h ahead|jumped)"))).to_be_visible()
