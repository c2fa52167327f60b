"""Every place at 320 px, and with the browser's text at twice its size: nothing runs out of the window.

WCAG 2.2, 1.4.4 (text resized to 200%) and 1.4.10 (reflow at 320 CSS px).
"""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import TimeoutError, expect

from tests.browser.conftest import CHROMIUM, enter_demo, sign_in
from tests.browser.roadside import PHONE, note, over, start_ride
from tests.browser.test_walk import PLACES, hrefs_of
from tests.chromium import chromium

FITS = "() => document.documentElement.scrollWidth <= window.innerWidth"
TWICE = "--blink-settings=defaultFontSize=32"
SIZES = {
    "small": ([(320, 720)], []),
    "twice the text": ([(1280, 800), (390, 844)], [TWICE]),
}


@pytest.fixture(scope="module")
def launcher(browser):
    """What started the shared browser: a process has one."""
    return browser.browser_type


@pytest.mark.parametrize("name", SIZES)
def test_nothing_runs_out_of_the_window(name, launcher, address):
    sizes, switches = SIZES[name]
    browser = launcher.launch(executable_path=chromium(), args=[*CHROMIUM, *switches])
    page = browser.new_page(base_url=address, locale="en-GB", service_workers="block")
    enter_demo(page)
    with_traces = next(href for href in hrefs_of(page) if "/tests/" in href)
    out = []
    for path in [*PLACES, with_traces]:
        page.goto(path)
        page.locator("main h1").first.wait_for()
        expect(page.locator("[aria-busy=true]")).to_have_count(0)
        for width, height in sizes:
            page.set_viewport_size({"width": width, "height": height})
            try:
                # What is drawn to the width of its place is drawn again after that has changed.
                page.wait_for_function(FITS, timeout=3000)
            except TimeoutError:
                out.append(f"{path} at {width}")
    browser.close()
    assert out == []


#: Buttons, of what lies open on top, that run out of the window or have a word in two lines.
BROKEN = """async () => {
  // Until its font is there a word is drawn in another, wider one.
  await document.fonts.ready;
  const open = document.querySelector('dialog, [role=dialog]') ?? document;
  return [...open.querySelectorAll('button, a')].filter((key) => {
    const box = key.getBoundingClientRect();
    if (box.width === 0 || getComputedStyle(key).clipPath !== 'none') return false;
    const texts = document.createTreeWalker(key, NodeFilter.SHOW_TEXT);
    for (let text = texts.nextNode(); text !== null; text = texts.nextNode()) {
      for (const { index, 0: word } of text.data.matchAll(/\\S+/g)) {
        const range = document.createRange();
        range.setStart(text, index);
        range.setEnd(text, index + word.length);
        const [first, second] = range.getClientRects();
        if (second !== undefined && second.top > first.top) return true;
      }
    }
    return box.right > innerWidth + 1 && !key.closest('nav');
  }).map((key) => key.innerText);
}"""


@pytest.mark.parametrize("text_px", [24, 32])
def test_with_large_text_a_new_entry_is_answered_where_one_looks(text_px, launcher, address):
    """The keys are a screen below the line then: after a store the page stood between them."""
    switch = f"--blink-settings=defaultFontSize={text_px}"
    browser = launcher.launch(executable_path=chromium(), args=[*CHROMIUM, switch])
    page = browser.new_page(base_url=address, locale="en-GB", service_workers="block", viewport=PHONE)  # fmt: skip
    sign_in(page)
    start_ride(page, "Large")
    assert page.evaluate(BROKEN) == []
    for volts, trip in (("41.5", "0"), ("41.0", "1.4")):
        page.evaluate("() => window.scrollTo(0, 5000)")
        note(page, Volts=volts, Trip_meter=trip)
        expect(
            page.get_by_role("button", name=re.compile("Why, and what else"))
        ).to_be_in_viewport()
    broken = {}
    for key in ("Entry", "Event", "End", "Menu", "All saved", "Why, and what else"):
        page.get_by_role("button", name=re.compile(key if " " in key else f"^{key}")).click()
        over(page).wait_for()
        broken[key] = page.evaluate(BROKEN)
        page.keyboard.press("Escape")
        expect(over(page)).to_be_hidden()
    # What waits on the phone is a longer sentence than that all is saved.
    page.context.set_offline(True)
    note(page, Volts="40.8", Trip_meter="2.1")
    expect(page.get_by_role("status").filter(has_text="1 waiting on this phone")).to_be_visible()
    broken["waiting"] = page.evaluate(BROKEN)
    browser.close()
    assert not any(broken.values()), broken
