"""Drawings that leave the page: as a picture, as values, and read by key."""

import re
from collections.abc import Callable

from playwright.sync_api import Page, expect

from tests.browser.conftest import open_test


def saved(page: Page, press: Callable[[], None]) -> tuple[str, bytes]:
    """What the browser saves when something is pressed: the file's name and its content."""
    with page.expect_download() as started:
        press()
    return started.value.suggested_filename, started.value.path().read_bytes()


def size_of(png: bytes) -> tuple[int, int]:
    """Width and height of a PNG, from its header (ISO/IEC 15948, 11.2.2)."""
    assert png[:8] == b"\x89PNG\r\n\x1a\n"
    return int.from_bytes(png[16:20], "big"), int.from_bytes(png[20:24], "big")


def test_a_drawing_is_saved_as_a_picture_with_its_fonts_and_as_values(demo: Page):
    open_test(demo, "Lighthouse road, twice")
    tools = demo.get_by_role("button", name=re.compile("^Save or share Traces of"))

    def take(what: str) -> tuple[str, bytes]:
        tools.click()
        return saved(demo, demo.get_by_role("menuitem", name=what).click)

    name, svg = take("Save as SVG")
    assert name == "limpet-traces-of-volts-power-speed-height.svg"
    text = svg.decode()
    # Nothing of it lies elsewhere: it is opened by whoever it is sent to.
    assert "@font-face" in text
    assert "url(data:" in text
    assert re.findall(r"(?:url\(|href=.)http", text) == []
    assert ">Volts<" in text
    _, png = take("Save as PNG")
    drawn = demo.get_by_role("img", name=re.compile("^Traces of")).bounding_box()
    assert drawn is not None
    width, _ = size_of(png)
    assert width > 2 * drawn["width"]
    _, csv = take("Save the values as CSV")
    lines = csv.decode().splitlines()
    assert lines[0] == 'clock,mi,"Volts, V","Power, W","Speed, mph","Height, ft"'
    # As many as are drawn: what was the start and what the end are among them.
    assert len(lines) > 200
    assert lines[1].startswith("09:31,0,54.")


def test_a_drawing_is_read_by_key(demo: Page):
    open_test(demo, "Lighthouse road, twice")
    keys = demo.get_by_role("slider", name=re.compile("^Read Traces of"))
    keys.focus()
    keys.press("End")
    expect(keys).to_have_attribute("aria-valuetext", re.compile(r"^22\.1\d mi · 11:\d\d"))
    strip = demo.get_by_role("img", name=re.compile("^Tideline"))
    expect(strip.locator("line[class*=cursor]")).to_have_count(1)
    keys.press("ArrowLeft")
    expect(demo.get_by_text(re.compile(r"^22\.\d\d mi · 11:\d\d"))).to_be_visible()


def test_a_result_is_a_picture_without_place_or_name(demo: Page):
    open_test(demo, "Quay loop on volts")
    expect(demo.get_by_role("heading", level=1)).to_contain_text("Tobias")
    demo.get_by_role("button", name="Picture").click()
    dialog = demo.get_by_role("dialog")
    picture = dialog.get_by_role("img", name=re.compile("^Picture of the result"))
    expect(picture).to_contain_text("the pack takes the rider 67.5 miles")
    assert not re.search("Tobias|Quay", picture.text_content() or "")
    name, wide = saved(demo, dialog.get_by_role("button", name="Save as PNG").click)
    assert name == "limpet-result-9-jun-2026.png"
    assert size_of(wide) == (1200, 630)
    dialog.get_by_text("square", exact=True).click()
    dialog.get_by_label("With the ride’s name").check()
    expect(picture).to_contain_text("Quay loop on volts alone")
    name, square = saved(demo, dialog.get_by_role("button", name="Save as PNG").click)
    assert name == "limpet-quay-loop-on-volts-alone.png"
    assert size_of(square) == (1080, 1080)
