"""The screens as a slow phone has them: bytes of a first visit, how far things jump, how long a tap takes.

The processor is slowed four times (the browser's own throttle). A tap is timed in the page, from the click to the
first picture in which what was asked for stands.
"""

from __future__ import annotations

import os
import re
import subprocess
import sys
from statistics import median

from playwright.sync_api import Browser, BrowserContext, Page, sync_playwright

from server.settings import ROOT
from tests.browser.conftest import CHROMIUM, enter_demo, served
from tests.browser.roadside import PHONE
from tests.chromium import chromium

DATABASE = "limpet_test_screens"
SLOWED = 4
TIMES = 5
BENCH = {"width": 1280, "height": 800}
#: What each place is known by once it is there.
PLACES = {
    "/logbook": "tests", "/ride": "Log a ride", "/plan": "wait", "/plan/new": "Plan a test", "/compare": "Which uses less",
    "/compare/ageing": "aged", "/compare/seasons": "cold", "/forecast": "pack do this trip", "/kit": "Kit",
    "/method": "How every figure",
}  # fmt: skip
_WATCH = """
  window.jumped = 0;
  new PerformanceObserver((seen) => {
    for (const one of seen.getEntries()) if (!one.hadRecentInput) window.jumped += one.value;
  }).observe({ type: 'layout-shift', buffered: true });
  window.until = (tapped, holds) => new Promise((done) => {
    const begun = performance.now();
    const look = () => {
      if (holds()) requestAnimationFrame(() => done(performance.now() - begun));
      else requestAnimationFrame(look);
    };
    tapped.click();
    look();
  });
"""
#: Taps: where, on which screen, what is tapped, and what stands then (both as JavaScript); the aim [ms].
TAPS: dict[str, tuple[str, dict, str, str, int]] = {
    "open a sheet": (
        "test", BENCH,
        "[...document.querySelectorAll('section[aria-label=Sheet] button')].find((b) => /^(Change|Add)/.test(b.textContent))",
        "document.querySelector('[role=dialog] input')", 200,
    ),
    "open a test": (
        "/logbook", BENCH, "document.querySelector('a[href^=\"/tests/\"]')",
        "location.pathname.startsWith('/tests/') && !document.querySelector('li[data-index]')"
        " && document.querySelector('main h1')", 100,
    ),
    "Forecast": (
        "/logbook", BENCH, "document.querySelector('nav a[href=\"/forecast\"]')",
        "location.pathname === '/forecast' && document.querySelector('main form')", 100,
    ),
    "More": (
        "/logbook", PHONE, "[...document.querySelectorAll('nav button')].find((b) => b.textContent.endsWith('More'))",
        "document.querySelector('[role=menu] [role=menuitem]')", 100,
    ),
}  # fmt: skip


def bench_screens() -> None:
    """Print what is asked of the screens."""
    with served(DATABASE) as address, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=chromium(), args=CHROMIUM)
        _bytes(browser, address)
        _jumps(browser, address)
        _taps(browser, address)
        _many(browser, address)
        browser.close()


def _context(browser: Browser, address: str, size: dict) -> BrowserContext:
    context = browser.new_context(
        base_url=address, viewport=size, locale="en-GB", service_workers="block"
    )
    context.add_init_script(_WATCH)
    return context


def _slow(context: BrowserContext, page: Page) -> None:
    session = context.new_cdp_session(page)
    session.send("Emulation.setCPUThrottlingRate", {"rate": SLOWED})


def _bytes(browser: Browser, address: str) -> None:
    """What a first visit to each place takes over the line, signed in, nothing kept."""
    known = _context(browser, address, BENCH)
    enter_demo(known.new_page())
    state = known.storage_state()
    for path, words in PLACES.items():
        context = browser.new_context(
            base_url=address, viewport=BENCH, storage_state=state, service_workers="block"
        )
        page = context.new_page()
        page.goto(path)
        _there(page, words)
        page.wait_for_load_state("networkidle")
        taken = page.evaluate(
            "[...performance.getEntriesByType('resource'), ...performance.getEntriesByType('navigation')]"
            ".filter((one) => !one.name.includes('/api/')).reduce((sum, one) => sum + one.encodedBodySize, 0)"
        )
        print(f"first visit to {path}: {taken / 1000:.0f} kB without answers  aim 300 kB")
        context.close()
    known.close()


def _there(page: Page, words: str) -> None:
    page.get_by_role("heading", name=re.compile(words)).first.wait_for()


def _jumps(browser: Browser, address: str) -> None:
    """How far what is drawn moves by itself (cumulative layout shift), on each place and a result."""
    for size, name in ((BENCH, "laptop"), (PHONE, "phone")):
        context = _context(browser, address, size)
        page = enter_demo(context.new_page())
        _slow(context, page)
        test = _one(page)
        for path, words in {**PLACES, f"/tests/{test}": "How sure"}.items():
            page.goto(path)
            _there(page, words)
            page.wait_for_load_state("networkidle")
            jumped = page.evaluate("window.jumped")
            shown = path.replace(test, "…")
            print(f"{shown} on a {name} jumps by {jumped:.3f}  aim 0.02")
        context.close()


def _one(page: Page) -> str:
    """A test with a sheet and a full result."""
    return page.request.get("/api/tests?most=1").json()["items"][0]["id"]


def _taps(browser: Browser, address: str) -> None:
    for what, (path, size, tapped, holds, aim) in TAPS.items():
        context = _context(browser, address, size)
        page = enter_demo(context.new_page())
        test = _one(page)
        _slow(context, page)
        found = []
        for _ in range(TIMES):
            page.goto(f"/tests/{test}" if path == "test" else path)
            _there(page, "How sure" if path == "test" else PLACES[path])
            page.wait_for_load_state("networkidle")
            # What is fetched ahead while nothing else happens is there before somebody taps.
            page.wait_for_timeout(2000)
            # A hand comes over what it is about to tap, and stays there for a moment.
            button = page.evaluate_handle(tapped).as_element()
            assert button is not None, what
            button.hover()
            page.wait_for_timeout(300)
            found.append(page.evaluate(f"window.until({tapped}, () => {holds})"))
        print(f"{what}: {median(found):.0f} ms, {max(found):.0f} at most  aim {aim} ms")
        context.close()


def _many(browser: Browser, address: str) -> None:
    """A logbook of two thousand tests, from its link to its first rows."""
    subprocess.run(
        [sys.executable, "-m", "tests.browser.many", "many", "two thousand tests"],
        cwd=ROOT, check=True, env={**os.environ, "LIMPET_DB_NAME": DATABASE},
    )  # fmt: skip
    context = _context(browser, address, BENCH)
    page = context.new_page()
    page.goto("/")
    page.get_by_label("Name").fill("many")
    page.get_by_role("textbox", name="Password").fill("two thousand tests")
    page.get_by_role("button", name="Sign in", exact=True).click()
    _there(page, "tests")
    _slow(context, page)
    found = []
    for _ in range(TIMES):
        page.goto("/kit")
        _there(page, "Kit")
        page.wait_for_load_state("networkidle")
        found.append(
            page.evaluate(
                "window.until(document.querySelector('nav a[href=\"/logbook\"]'),"
                " () => document.querySelectorAll('a[href^=\"/tests/\"]').length > 5)"
            )
        )
    print(f"2,000 tests: {median(found):.0f} ms, {max(found):.0f} at most  aim 300 ms")
    context.close()
