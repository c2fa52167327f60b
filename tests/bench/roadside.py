"""The roadside on a phone's screen: how soon an answer comes, and a ride of four hours in memory."""

from __future__ import annotations

import shutil
import time
from collections.abc import Callable
from statistics import median

from playwright.sync_api import BrowserContext, Page, sync_playwright

from tests.browser.conftest import CHROMIUM, enter_demo, served
from tests.browser.roadside import PHONE, note, start_ride

HOURS = 4
#: A position that the bench moves: as a browser's own, once a second.
_MOVED = """
  const watchers = [];
  const place = {
    watchPosition: (heard) => watchers.push(heard),
    clearWatch: () => { watchers.length = 0; },
  };
  Object.defineProperty(navigator, 'geolocation', { value: place });
  window.moved = async (begun, seconds) => {
    for (let at = 0; at < seconds; at += 1) {
      const coords = {
        latitude: 57.2 + at * 5e-5, longitude: -7.4, accuracy: 5, altitude: 20, speed: 5.6,
      };
      for (const heard of watchers) heard({ coords, timestamp: begun + at * 1000 });
      if (at % 4 === 0) await new Promise((done) => setTimeout(done));
    }
  };
"""


def bench_ride() -> None:
    """Print what is asked of the roadside."""
    with served() as address, sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path=shutil.which("chromium"), args=CHROMIUM
        )
        context = browser.new_context(
            viewport=PHONE, base_url=address, locale="en-GB", has_touch=True
        )
        context.add_init_script(_MOVED)
        page = enter_demo(context.new_page())
        where = start_ride(page, "Four hours")
        note(page, Volts="415", Trip_meter="0")
        note(page, Volts="398", Trip_meter="3.1")
        _answers(page, where)
        _long(context, page)
        browser.close()


def _answers(page: Page, where: str) -> None:
    test = where.rsplit("/", 1)[-1]
    for more, aim in (("", "200 ms"), ("?table=true", "-")):
        taken = _times(lambda more=more: page.request.get(f"/api/tests/{test}/follow{more}"))
        print(f"follow{more} over HTTP: {_ms(taken)}  aim {aim}")


def _long(context: BrowserContext, page: Page) -> None:
    page.get_by_role("button", name="Menu").click()
    page.get_by_role("dialog").get_by_role("switch", name="Record my track").click()
    page.go_back()
    session = context.new_cdp_session(page)
    before = _heap_mb(session)
    page.evaluate(f"window.moved(Date.now(), {3600 * HOURS})")
    # A real ride's fixes come one a second: what came at once is kept first.
    page.wait_for_timeout(30_000)
    print(
        f"page's memory: {before:.0f} MB, after {HOURS} h of track {_heap_mb(session):.0f} MB  aim 150 MB"
    )


def _heap_mb(session) -> float:
    session.send("HeapProfiler.collectGarbage")
    session.send("Performance.enable")
    metrics = {
        one["name"]: one["value"] for one in session.send("Performance.getMetrics")["metrics"]
    }
    return float(metrics["JSHeapUsedSize"]) / 1e6


def _times(run: Callable[[], object], repeats: int = 10) -> list[float]:
    taken = []
    for _ in range(repeats):
        begun = time.perf_counter()
        run()
        taken.append(time.perf_counter() - begun)
    return taken


def _ms(taken: list[float]) -> str:
    return f"{1000 * min(taken):.0f} ms min, {1000 * median(taken):.0f} ms median"
