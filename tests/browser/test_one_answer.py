"""Random rides on a phone: whatever happens, what the page shows is one answer of one evidence, or says that it is older.

Entries, corrections, removals, events, a signal that is lost and found, answers that are slow or never come.
After every step line, strip, distance and consumption are held against each other, and against what the core
says of the same evidence. `LIMPET_RIDES=30` rides more of them.
"""

from __future__ import annotations

import os
import random
import re
from contextlib import suppress
from dataclasses import dataclass, field
from typing import Any

import pytest
from playwright.sync_api import Error, Page, Route, expect

from tests.browser.roadside import kept_here, note, over, press, start_ride, step, store

RIDES = int(os.environ.get("LIMPET_RIDES", "2"))
STEPS = 7
SEED = 20261129
METRES_PER_MILE = 1609.344
#: What each state says of itself.
SAYS = {
    "now": "With your last entry",
    "device": "Worked out on this phone",
    "older": "before what you just noted",
}


@dataclass
class Driven:
    """A ride that is driven: how far it has come by its trip meter, and whether anybody answers."""

    page: Page
    test_id: str
    chance: random.Random
    miles: float = 0.0
    entries: int = 0
    online: bool = True
    held: list[Route] = field(default_factory=list)

    def entry(self) -> None:
        self.miles = round(self.miles + self.chance.uniform(0.4, 2.2), 1) if self.entries else 0.0
        self.page.clock.fast_forward(60_000 * self.chance.randint(4, 12))
        volts = 41.5 - 0.35 * self.miles + self.chance.uniform(-0.15, 0.15)
        read = {"Trip_meter": f"{self.miles:.1f}"}
        if not self.entries or self.chance.random() < 0.7:
            read = {"Volts": f"{volts:.1f}", **read}
        note(self.page, **read)
        self.entries += 1

    def correct(self) -> None:
        self.page.get_by_role("button", name=re.compile("^Last: ")).click()
        step(self.page, "Trip meter")
        for _ in range(8):
            over(self.page).get_by_role("button", name="One back").click()
        self.miles = round(self.miles + 0.3, 1)
        press(self.page, f"{self.miles:.1f}")
        store(self.page)

    def remove(self) -> None:
        if self.entries < 3:
            return
        self.page.get_by_role("button", name="Remove", exact=True).click()
        self.entries -= 1

    def rain(self) -> None:
        self.page.get_by_role("button", name="Event", exact=True).click()
        over(self.page).get_by_role("button", name=re.compile("^Rain")).click()
        expect(over(self.page)).to_be_hidden()
        self.entries += 1

    def signal(self) -> None:
        self.online = not self.online
        self.page.context.set_offline(not self.online)

    def hang(self) -> None:
        """Judgements are not answered from now on, until `answer`."""
        self.page.route("**/follow*", lambda route: self.held.append(route))

    def answer(self) -> None:
        self.page.unroute("**/follow*")
        for route in self.held:
            # The page gave up on some of them by itself.
            with suppress(Error):
                route.abort()
        self.held.clear()


def shown(page: Page) -> dict[str, Any]:
    """All that the page shows, at one moment."""
    found: dict[str, Any] = page.evaluate(
        """() => {
          const main = document.querySelector('main[data-answer]');
          const strip = main.querySelector('[aria-label^="Tideline"]');
          const figures = [...main.querySelectorAll('b')].map((one) => one.textContent);
          const status = main.querySelector('header [role=status]').textContent;
          return {
            state: main.dataset.answer, evidence: main.dataset.evidence, code: main.dataset.code,
            source: main.querySelector('[data-source]').textContent,
            line: figures[0], so_far: figures[1], consumption: figures[2],
            strip: strip ? strip.getAttribute('aria-label') : null, status,
          };
        }"""
    )
    return found


def looked_at(driven: Driven) -> str:
    """Hold what is shown against itself and against the core; the state that it was in."""
    page = driven.page
    now = shown(page)
    state = now["state"]
    if state == "before":
        assert "waiting" in now["status"] or not driven.online or now["code"] == "read_volts"
        return state
    assert SAYS[state] in now["source"], now
    # The strip is of the same estimate as the distance beside it.
    ridden = re.search(r"([\d.]+) mi ridden", now["strip"] or "")
    far = re.match(r"([\d.]+|–)", now["so_far"])
    assert far is not None
    if ridden and far[1] != "–":
        assert float(ridden[1]) == pytest.approx(float(far[1]), abs=0.051), now
    if state != "now":
        return state
    # Nothing waits here that the answer does not know.
    assert "waiting" not in now["status"], now
    if driven.held or not driven.online:
        return state
    core = page.request.get(f"/api/tests/{driven.test_id}/follow", max_retries=3).json()
    evidence = core["evidence"]
    revision = int(now["evidence"].split(":")[0])
    assert revision <= evidence["revision"]
    if revision == evidence["revision"]:
        assert now["evidence"] == f"{revision}:{evidence['digest']}"
        assert now["code"] == core["matter"]["code"], (now, core["matter"])
        if core["distance"] is not None:
            told = core["distance"]["value"] / METRES_PER_MILE
            assert float(far[1]) == pytest.approx(told, abs=0.051), now
    return state


def settled(driven: Driven) -> None:
    """With a signal and somebody who answers, the page comes to an answer of now."""
    page = driven.page
    page.wait_for_function(
        "() => document.querySelector('main[data-answer]')?.dataset.answer === 'now'"
    )
    looked_at(driven)


@pytest.mark.parametrize("number", range(RIDES))
def test_no_step_of_a_random_ride_shows_a_mixture(rider: Page, number: int):
    chance = random.Random(SEED + number)
    rider.clock.install()
    url = start_ride(rider, f"By chance {number}")
    driven = Driven(rider, url.rsplit("/", 1)[-1], chance)
    driven.entry()
    driven.entry()
    settled(driven)
    # A hanging answer, and a signal lost, come up in every ride.
    acts = [driven.entry, driven.correct, driven.remove, driven.rain]
    turns = ["hang", "answer", "signal", "signal", *["act"] * (STEPS - 4)]
    order = [*turns[:1], "act", *turns[1:2], "act", *turns[2:3], "act", *turns[3:]]
    for turn in order:
        if turn == "act":
            chance.choice(acts)()
        else:
            getattr(driven, turn)()
        # At once, and after the page has had time to be wrong.
        looked_at(driven)
        rider.wait_for_function("() => new Promise(requestAnimationFrame)")
        looked_at(driven)
        if driven.online and not driven.held:
            expect(rider.get_by_text("All saved")).to_be_visible()
            looked_at(driven)
    settled(driven)


def test_a_corrected_entry_makes_the_answer_old_at_once(rider: Page):
    """A trip corrected from 3.2 to 8.2 miles left "home, over 99% sure" standing for five minutes."""
    rider.clock.install()
    url = start_ride(rider, "Put right")
    driven = Driven(rider, url.rsplit("/", 1)[-1], random.Random(1))
    note(rider, Volts="41.5", Trip_meter="0")
    rider.clock.fast_forward(20 * 60_000)
    note(rider, Volts="40.2", Trip_meter="3.2")
    settled(driven)
    before = shown(rider)
    driven.hang()
    rider.get_by_role("button", name=re.compile("^Last: ")).click()
    step(rider, "Trip meter")
    for _ in range(5):
        over(rider).get_by_role("button", name="One back").click()
    press(rider, "8.2")
    store(rider)
    rider.locator("main[data-answer=older]").wait_for()
    after = shown(rider)
    # Nothing of the device's own can put an entry right that the answer had otherwise.
    assert after["state"] == "older"
    assert after["line"] == before["line"]
    assert "just noted" in after["source"]
    driven.answer()
    rider.reload()
    settled(driven)
    assert shown(rider)["so_far"] != before["so_far"]


def test_the_second_entry_moves_everything_together_though_no_answer_comes(rider: Page):
    """So far 13.2 miles stood beside "55.1 miles more" of the entry before."""
    rider.clock.install()
    start_ride(rider, "No answer")
    note(rider, Volts="41.5", Trip_meter="0")
    rider.wait_for_function(
        "() => document.querySelector('main[data-answer]')?.dataset.answer === 'now'"
    )
    # The table comes after the answer.
    kept_here(rider, "rides", "(row) => row.table && !row.table.start_values")
    first = shown(rider)
    rider.route("**/follow*", lambda route: None)
    rider.clock.fast_forward(40 * 60_000)
    note(rider, Volts="38.4", Trip_meter="7.4")
    # The entry is on the phone before it shows: then all of it has moved at once.
    rider.locator("main[data-answer=device]").wait_for()
    second = shown(rider)
    assert second["state"] == "device"
    assert second["line"] != first["line"]
    far = re.match(r"[\d.]+", second["so_far"])
    assert far is not None
    assert float(far[0]) == pytest.approx(7.0, abs=0.6)
    assert f"{far[0]} mi ridden" in second["strip"]
    expect(rider.get_by_text("Worked out on this phone, last answer")).to_be_visible()
