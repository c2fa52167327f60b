"""A whole ride without mercy: browser, server and database are killed at random, and nothing is lost."""

from __future__ import annotations

import os
import random
import re
import signal
import subprocess
from collections.abc import Iterator
from contextlib import suppress
from pathlib import Path

import pytest
from playwright.sync_api import BrowserContext, Error, Page, Playwright, expect

from launch.database import Database
from launch.sockets import listen
from tests.browser.conftest import CHROMIUM, PATIENCE_MS
from tests.browser.roadside import PHONE, lap, over, press
from tests.chromium import chromium
from tests.serving import port_of, serve

#: Killed so often, of each; the browser is what dies in a pocket.
KILLS = {"browser": 40, "server": 13, "database": 9}
SEED = 20261126


class House:
    """A database, a server and a phone of this test's own, each of which can be killed and comes back."""

    def __init__(self, folder: Path, driver: Playwright) -> None:
        self.folder = folder
        self.database = Database(folder / "db")
        # It outlives the server, as with ./limpet start: who calls meanwhile waits.
        self.listening = listen("127.0.0.1")
        self.port = port_of(self.listening)
        self.server: subprocess.Popen[str] | None = None
        self.phone: BrowserContext | None = None
        self.driver = driver

    def up(self) -> None:
        """Whatever is down comes up again."""
        self.database.start()
        if self.server is None or self.server.poll() is not None:
            known = self.database.environment()
            self.server = serve(self.listening, LIMPET_DB_NAME="limpet", **known)

    def page(self) -> Page:
        """The phone with the page that was open last."""
        if self.phone is None:
            self.phone = self.driver.chromium.launch_persistent_context(
                str(self.folder / "phone"),
                executable_path=chromium(),
                args=CHROMIUM,
                viewport=PHONE,
                base_url=f"http://127.0.0.1:{self.port}",
                locale="en-GB",
                has_touch=True,
            )
            self.phone.set_default_timeout(PATIENCE_MS)
        return self.phone.pages[0]

    def kill(self, what: str) -> None:
        """At once, without a word (-9)."""
        if what == "browser":
            self.phone = None
            marker = f"--user-data-dir={self.folder / 'phone'}"
            subprocess.run(["pkill", "-9", "-f", "--", marker], check=False)
        elif what == "server" and self.server is not None:
            self.server.send_signal(signal.SIGKILL)
            self.server.wait()
        elif what == "database" and self.database.is_alive:
            pid = int((self.folder / "db" / "mariadbd.pid").read_text())
            os.kill(pid, signal.SIGKILL)
            # It is a child of this process: only then is it gone.
            os.waitpid(pid, 0)

    def down(self) -> None:
        if self.phone is not None:
            with suppress(Error):
                self.phone.close()
        if self.server is not None:
            self.server.kill()
            self.server.wait()
        self.listening.close()
        self.database.stop()


@pytest.fixture
def house(tmp_path_factory, driver: Playwright) -> Iterator[House]:
    made = House(tmp_path_factory.mktemp("house"), driver)
    try:
        made.up()
        yield made
    finally:
        made.down()


def prepared(house: House) -> Page:
    """An account with a vehicle and a pack, signed in on the phone, the application kept there."""
    page = house.page()
    page.goto("/")
    page.get_by_role("button", name="Create an account").click()
    page.get_by_label("Name").fill("Noor")
    page.get_by_label("Password", exact=False).first.fill("a-long-enough-one")
    page.get_by_role("button", name="Create and sign in").click()
    page.get_by_role("heading", name="No tests yet.").wait_for()
    page.evaluate(
        """async () => {
          const session = await (await fetch('/api/session')).json();
          const headers = { 'X-CSRFToken': session.csrf_token, 'Content-Type': 'application/json' };
          const put = (path, body) =>
            fetch(`/api/${path}/${crypto.randomUUID()}`, { method: 'PUT', headers, body: JSON.stringify(body) });
          await put('vehicles', { name: 'Plover', kind: 'kick_scooter', mass_kg: 20 });
          await put('packs', { name: 'Scoter', chemistry: 'nmc', series: 10, rated_ah: 12.8, full_v: 42, cutoff_v: 33 });
          await navigator.serviceWorker.ready;
        }"""
    )
    page.goto("/ride")
    page.get_by_role("button", name=re.compile("^Start with Plover")).click()
    page.get_by_role("button", name="First entry").wait_for()
    where = page.url
    # A browser writes cookies down within half a minute, or when it is closed: the sign-in is an older one.
    page.context.close()
    house.phone = None
    page = house.page()
    page.goto(where)
    return page


class Rider:
    """Does one thing after the other, and remembers what the phone said it has."""

    def __init__(self, house: House) -> None:
        self.house = house
        self.done: list[str] = []
        self.trip = 0

    def entry(self, page: Page) -> None:
        """Volts and a trip meter that no other entry shows."""
        self.trip += 1
        name = f"trip {self.trip}"
        page.get_by_role("button", name=re.compile("^(First entry|Entry)")).click()
        press(page, "40.1")
        over(page).get_by_role("button", name="Next").click()
        press(page, f"{self.trip}.")
        over(page).get_by_role("button", name="Save", exact=True).click()
        expect(over(page)).to_be_hidden()
        self.done.append(name)

    def lap(self, page: Page) -> None:
        """One more lap than the phone shows."""
        shown = lap(page).inner_text()
        count = int(found.group()) if (found := re.search(r"\d+", shown)) else 0
        name = f"lap {count + 1}"
        lap(page).click()
        expect(lap(page)).to_contain_text(f"{count + 1} so far")
        self.done.append(name)


def of_server(page: Page, where: str) -> list[dict]:
    """What the server has of the ride, in its order."""
    return page.request.get(f"/api/tests/{where.rsplit('/', 1)[-1]}", max_retries=3).json()[
        "entries"
    ]


def named(entry: dict) -> str:
    if entry["laps"] is not None:
        return f"lap {entry['laps']:.0f}"
    return f"trip {entry['trip_m'] / 1609.344:.0f}"


@pytest.mark.parametrize(
    "part",
    [
        0.12,
        pytest.param(
            1.0,
            marks=pytest.mark.skipif(
                not os.environ.get("LIMPET_KILLS"),
                reason="takes minutes of a whole machine; LIMPET_KILLS=1 runs it",
            ),
        ),
    ],
)
def test_nothing_acknowledged_is_lost_doubled_or_out_of_order(house: House, part: float):
    chance = random.Random(SEED)
    kills = [what for what, count in KILLS.items() for _ in range(round(part * count))]
    chance.shuffle(kills)
    page = prepared(house)
    where = page.url
    rider = Rider(house)
    rider.entry(page)
    for what in kills:
        act = rider.entry if chance.random() < 0.4 else rider.lap
        if what == "browser" and chance.random() < 0.3:
            # In the very moment of a tap: it may be kept or not, but not twice, and nothing else goes.
            with suppress(Error):
                lap(page).click(no_wait_after=True)
        else:
            act(page)
        house.kill(what)
        if what == "browser":
            page = house.page()
            page.goto(where)
        elif chance.random() < 0.6:
            house.up()
    house.up()
    page.reload()
    expect(page.get_by_text("All saved")).to_be_visible(timeout=60_000)
    expect(page.get_by_text(re.compile(r"^\d+ entries$"))).to_be_visible()
    kept = [named(entry) for entry in of_server(page, where)]
    assert len(kills) >= 60 * part
    assert len(set(kept)) == len(kept), "an entry is there twice"
    assert [name for name in kept if name in rider.done] == rider.done
