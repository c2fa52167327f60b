"""The roadside on a phone's screen: how soon an answer comes, and a ride of four hours in memory."""

from __future__ import annotations

import re
import time
from collections.abc import Callable
from statistics import median

from playwright.sync_api import BrowserContext, Page, sync_playwright

from tests.browser.conftest import CHROMIUM, enter_demo, served
from tests.browser.roadside import PHONE, note, start_ride
from tests.chromium import chromium

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
      // A real ride's fixes come one a second: the page is let do what it does between two.
      await new Promise((done) => setTimeout(done, 2));
    }
  };
  // How long a tap or a key takes up to the next picture, as the browser itself times it.
  window.slow = [];
  new PerformanceObserver((seen) => {
    for (const one of seen.getEntries()) {
      if (one.interactionId) window.slow.push([one.duration, one.name]);
    }
  }).observe({ type: 'event', durationThreshold: 16 });
  // And from a tap up to where what was done stands in the page.
  window.until = (button, holds) => new Promise((done) => {
    const begun = performance.now();
    const look = () => {
      if (holds()) done(performance.now() - begun);
      else requestAnimationFrame(look);
    };
    button.click();
    look();
  });
"""


def bench_ride() -> None:
    """Print what is asked of the roadside."""
    with served() as address, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=chromium(), args=CHROMIUM)
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
    sent(page)
    after = _heap_mb(session)
    print(f"page's memory: {before:.0f} MB, after {HOURS} h of track {after:.0f} MB  aim 150 MB")
    page.evaluate("window.slow.length = 0")
    laps = [page.evaluate(_LAP) for _ in range(10)]
    print(f"lap counted and shown: {median(laps):.0f} ms, {max(laps):.0f} at most  aim 100 ms")
    for turn in range(5):
        note(page, Volts=f"39{turn}", Trip_meter=f"4.{turn}")
        page.get_by_role("button", name=re.compile("Why, and what else")).click()
        page.get_by_role("dialog").wait_for()
        page.go_back()
        page.get_by_role("dialog").wait_for(state="hidden")
    slow = page.evaluate("window.slow")
    worst, name = max([*slow, [0, "none took 16 ms"]])
    print(f"{len(slow)} taps over 16 ms, the longest {worst:.0f} ms ({name})  aim 100 ms")


def sent(page: Page) -> None:
    """Wait until every piece of the track has gone."""
    page.get_by_text("All saved").wait_for(timeout=120_000)


#: A lap is tapped; it stands where the laps are counted.
_LAP = """() => {
  const key = [...document.querySelectorAll('button')].find((one) => /^Lap/.test(one.textContent));
  const said = key.textContent;
  return window.until(key, () => key.textContent !== said);
}"""


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
