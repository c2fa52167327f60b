"""The ride on the ground: drawn by WebGL where there is one, plainly where there is none."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import open_test

#: What a browser without WebGL answers.
NO_WEBGL = """
const asked = HTMLCanvasElement.prototype.getContext;
HTMLCanvasElement.prototype.getContext = function (kind, ...more) {
  return String(kind).startsWith('webgl') ? null : asked.call(this, kind, ...more);
};
"""


def at_the_map(page: Page, title: str = "Lighthouse road, twice") -> None:
    """A ride's page, scrolled to where its map is."""
    open_test(page, title)
    page.get_by_text(re.compile("^The route ridden, from")).scroll_into_view_if_needed()


def painted(page: Page) -> int:
    """How many colours the map's canvas shows."""
    return page.locator(".maplibregl-canvas").evaluate(
        """async (canvas) => {
          const bitmap = await createImageBitmap(canvas);
          const pen = new OffscreenCanvas(bitmap.width, bitmap.height).getContext('2d');
          pen.drawImage(bitmap, 0, 0);
          const { data } = pen.getImageData(0, 0, bitmap.width, bitmap.height);
          const found = new Set();
          for (let k = 0; k < data.length; k += 4) found.add(data.slice(k, k + 3).join());
          return found.size;
        }"""
    )


def test_a_ride_lies_on_its_ground_and_shares_the_cursor(demo: Page, address: str):
    faults: list[str] = []
    asked: list[str] = []
    demo.on("console", lambda said: faults.append(said.text) if said.type == "error" else None)
    demo.on("pageerror", lambda error: faults.append(str(error)))
    demo.on("request", lambda request: asked.append(request.url))
    at_the_map(demo)
    ground = demo.get_by_role("region", name=re.compile(r"^Map of the ride, 22\.1"))
    expect(ground).to_be_visible()
    expect(demo.get_by_text("Loch of the terns")).to_be_visible()
    # The two turns of a road ridden twice there and back, and the two ends.
    expect(demo.locator("[data-kind=turn]")).to_have_count(2)
    expect(demo.locator("[data-kind=start], [data-kind=end]")).to_have_count(2)
    expect(demo.locator("[data-kind=turn]").first).to_have_attribute("title", re.compile(r"^turn at 5\.[56] mi"))  # fmt: skip
    turn = demo.locator("[data-kind=turn]").first.bounding_box()
    assert turn is not None
    x, y = turn["x"] + turn["width"] / 2, turn["y"] + turn["height"] / 2
    strip = demo.get_by_role("img", name=re.compile("^Tideline"))
    # The map's own drawing comes a frame after its marks: it is pointed at until it answers.
    for _ in range(60):
        demo.mouse.move(x - 6, y)
        demo.mouse.move(x, y)
        if strip.locator("line[class*=cursor]").count():
            break
        demo.wait_for_load_state("networkidle")
    expect(strip.locator("line[class*=cursor]")).to_have_count(1)
    expect(demo.get_by_text(re.compile(r"^(5|16)\.\d\d mi · \d\d:\d\d"))).to_be_visible()
    assert painted(demo) >= 1
    # The library, its worker and the ground come from here, as all else does.
    assert any("maplibre-gl-worker" in url for url in asked)
    assert any(url.endswith("/ground/skerrow.json") for url in asked)
    assert [url for url in asked if not url.startswith((address, "data:", "blob:"))] == []
    assert faults == []


def test_how_far_one_would_get_is_a_ring_that_is_asked_for(demo: Page):
    at_the_map(demo)
    demo.get_by_role("button", name="Whole ride").wait_for()
    expect(demo.get_by_text("Loch of the terns")).to_be_visible()
    demo.get_by_label(
        re.compile(r"^Show how far out you could go and still get back: 11\.4 mi")
    ).check()
    # The whole ring is in sight: the island is small in it, and its names stand back.
    expect(demo.get_by_text("Loch of the terns")).to_be_hidden()
    demo.get_by_role("button", name="Whole ride").click()
    expect(demo.get_by_text("Loch of the terns")).to_be_visible()


def test_without_webgl_the_ride_is_drawn_plainly(demo: Page):
    demo.add_init_script(NO_WEBGL)
    at_the_map(demo)
    plain = demo.get_by_role("img", name=re.compile(r"^Map of the ride, 22\.1"))
    expect(plain).to_be_visible()
    expect(demo.locator(".maplibregl-canvas")).to_have_count(0)
    # A line stands in while the map is on its way, and another where it cannot be drawn.
    demo.wait_for_load_state("networkidle")
    box = plain.bounding_box()
    assert box is not None
    demo.mouse.move(box["x"] + 20, box["y"] + box["height"] / 2)
    demo.mouse.move(box["x"] + 14, box["y"] + box["height"] / 2)


def test_without_its_library_the_ride_is_drawn_plainly(demo: Page):
    demo.route("**/assets/GroundMap-*.js", lambda route: route.abort())
    at_the_map(demo)
    expect(demo.get_by_role("img", name=re.compile("^Map of the ride"))).to_be_visible()
    expect(demo.get_by_role("heading", name="How sure, and why")).to_be_visible()
