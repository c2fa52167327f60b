"""Take docs/screenshots from the demo: the real application, the real database, headless Chromium."""

from __future__ import annotations

import re
import sys
from base64 import b64encode
from datetime import UTC, datetime, timedelta
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from tests.browser.conftest import CHROMIUM, served
from tests.browser.roadside import note, press, start_ride, step, store
from tests.chromium import chromium
from tests.core.foreign.strangers import SHAPES, track_of

SHOTS = Path(__file__).resolve().parent.parent / "docs" / "screenshots"
BENCH = {"width": 1280, "height": 800}
PHONE = {"width": 390, "height": 844}
#: A4 within its margins, at the browser's 96 pixels to the inch.
PAPER = {"width": 733, "height": 1062}


def logbook(page: Page) -> None:
    page.goto("/logbook")
    page.get_by_role("listitem").first.wait_for()


def result(page: Page) -> None:
    logbook(page)
    page.get_by_role("link", name=re.compile("Lighthouse road, twice")).click()
    chart = page.get_by_role("img", name=re.compile("^Traces of"))
    chart.locator("path").first.wait_for()
    box = chart.bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + 200, box["y"] + 40)
    page.mouse.move(box["x"] + 60, box["y"] + 40, steps=5)
    page.get_by_text(re.compile(r"mi · \d\d:\d\d")).wait_for()


def printed(page: Page) -> None:
    result(page)
    page.get_by_role("heading", name="How sure, and why").wait_for()
    page.emulate_media(media="print")


def method(page: Page) -> None:
    page.goto("/method")
    page.get_by_role("button", name="Change Reserve").wait_for()


def pack(page: Page) -> None:
    page.goto("/kit/packs")
    page.get_by_role("link", name="Plover-1").click()
    page.get_by_role("img", name=re.compile("^Capacity at 25")).wait_for()


def ride_start(page: Page) -> None:
    page.goto("/ride")
    page.get_by_role("button", name=re.compile("^Start with")).wait_for()


def noted(page: Page, *entries: tuple[int, str, str, str]) -> None:
    """Entries by the pad: (minutes later, volts at rest, amp-hours, trip meter)."""
    for minutes, volts, charge, trip in entries:
        page.clock.fast_forward(minutes * 60_000 + 1000)
        note(page, Volts=volts, Trip_meter=trip, **{"Amp-hours": charge})
    page.get_by_text(f"{len(entries)} entries").wait_for()
    page.get_by_text("All saved").wait_for()
    # All that is shown is of one answer, and that knows every entry.
    page.locator("main[data-answer=now]").wait_for()


def begun(page: Page, minutes: int) -> None:
    """A ride that began so long ago: when it is pictured, its clock is everybody's."""
    page.clock.install(time=datetime.now(UTC) - timedelta(minutes=minutes))


def riding(page: Page) -> None:
    begun(page, 33)
    start_ride(page, "Harbour and back")
    noted(
        page,
        (0, "41.8", "0", "0"),
        (19, "39.9", "2.0", "3.2"),
        (14, "39.2", "3.4", "5.5"),
    )


def pad(page: Page) -> None:
    riding(page)
    page.get_by_role("button", name=re.compile("^Entry")).click()
    press(page, "387")


def why(page: Page) -> None:
    riding(page)
    page.get_by_role("button", name=re.compile("Why, and what else")).click()
    page.get_by_role("table", name="What you could do").wait_for()


def practice(page: Page) -> None:
    page.clock.install()
    page.goto("/ride/practice")
    page.get_by_role("button", name=re.compile("^First entry")).click()
    press(page, "420")
    store(page)
    page.get_by_role("button", name=re.compile("^Ride")).click()
    page.clock.run_for(20_000)
    page.get_by_role("button", name=re.compile("^Stop")).click()
    page.clock.run_for(6000)
    page.get_by_role("button", name=re.compile("^Entry")).click()
    press(page, "409")
    step(page, "Trip")
    press(page, "2.2")
    store(page)
    page.get_by_role("status").get_by_text(re.compile("^Turn")).first.wait_for()


def plan(page: Page) -> None:
    page.goto("/plan")
    page.get_by_role("link", name=re.compile("Lighthouse and back")).click()
    # On a phone the answer waits behind its line.
    page.get_by_text("The ride in numbers").wait_for(state="attached")


def forecast(page: Page) -> None:
    page.goto("/forecast")
    page.get_by_role("heading", name="What matters most").wait_for()


def compared(page: Page) -> None:
    """The scooter on the measured lap against the cargo bicycle."""
    rows = page.request.get("/api/tests?most=100").json()["items"]
    ids = {row["title"]: row["id"] for row in rows}
    first, second = ids["Quay loop, to cut-off"], ids["Quay loop, ridden gently"]
    page.goto(f"/compare?first={first}&second={second}")
    page.get_by_role("heading", name="Every ride").wait_for()


def seasons(page: Page) -> None:
    page.goto("/compare/seasons")
    page.get_by_role("combobox", name="The vehicle").click()
    page.get_by_role("option", name="Whimbrel").click()
    page.get_by_role("img", name=re.compile("^Range to cut-off")).wait_for()


def tides(page: Page) -> None:
    page.goto("/compare/tides")
    page.get_by_role("region", name="The card").wait_for()


def claim(page: Page) -> None:
    page.goto("/plan/claim")
    page.get_by_label("Energy on the label").fill("468 Wh")
    page.get_by_label("Distance claimed").fill("120 km")
    page.get_by_label("At a speed of").fill("25 km/h")
    page.get_by_role("button", name="Check it").click()
    page.get_by_label("Save it as").wait_for()


def brought(page: Page, **files: bytes) -> None:
    page.goto("/import")
    page.locator("input[type=file]").set_input_files(
        [
            {"name": name.replace("_", "."), "mimeType": "text/plain", "buffer": data}
            for name, data in files.items()
        ]
    )


def thirteen_cells(page: Page) -> None:
    """The pack that the volts are of."""
    page.get_by_role("combobox", name="Pack", exact=True).click()
    page.get_by_role("option", name="Eider-2").click()


def looked_at(page: Page) -> None:
    brought(page, evening_csv=next(s for s in SHAPES if s.delimiter == ";" and s.unit_rows).data())
    thirteen_cells(page)
    page.get_by_text("Every column is clear.").wait_for()
    page.evaluate("window.scrollTo(0, 0)")


def joined(page: Page) -> None:
    meter = next(shape for shape in SHAPES if shape.name.startswith("ISO clock in UTC"))
    brought(page, meter_csv=meter.data(), watch_gpx=track_of(meter.truth(), rows=1400, late_s=97))
    thirteen_cells(page)
    page.get_by_text("Sure: the two speeds").scroll_into_view_if_needed()
    page.get_by_role("button", name="Use the best match").evaluate(
        "(element) => element.scrollIntoView({ block: 'center' })"
    )


def planned_ride(page: Page) -> None:
    begun(page, 26)
    plan(page)
    page.get_by_role("button", name="Start the ride").click()
    noted(
        page,
        (0, "54.3", "0", "0"),
        (17, "53.1", "1.0", "3.1"),
        (9, "52.4", "1.6", "4.7"),
    )
    # The page asks again for what is being worked out, by a clock that stands still here.
    for _ in range(8):
        page.clock.run_for(1000)
        page.wait_for_load_state("networkidle")


#: name → (how to get there, size, colour scheme)
VIEWS = {
    "logbook": (logbook, BENCH, "light"),
    "result": (result, BENCH, "light"),
    "result-print": (printed, PAPER, "light"),
    "method": (method, BENCH, "light"),
    "kit-pack": (pack, BENCH, "light"),
    "ride-start": (ride_start, BENCH, "light"),
    "ride": (riding, PHONE, "light"),
    "ride-pad": (pad, PHONE, "light"),
    "ride-why": (why, PHONE, "light"),
    "ride-practice": (practice, PHONE, "light"),
    "forecast": (forecast, BENCH, "light"),
    "compare-dark": (compared, BENCH, "dark"),
    "seasons": (seasons, BENCH, "light"),
    "tide-table": (tides, BENCH, "light"),
    "claim-check": (claim, BENCH, "light"),
    "import-look": (looked_at, BENCH, "light"),
    "import-join": (joined, BENCH, "light"),
    "plan": (plan, BENCH, "light"),
    # Last: it rides the plan that the others show.
    "ride-planned": (planned_ride, PHONE, "light"),
}


#: A view has moved when more than this share of its pixels differ by more than a shade [-].
MOVED = 0.01
#: Two pictures side by side: the share of pixels that differ; all of them where the sizes do.
DIFFERING = """
async ([before, now]) => {
  const pixels = async (data) => {
    const picture = await createImageBitmap(await (await fetch(data)).blob());
    const pen = new OffscreenCanvas(picture.width, picture.height).getContext('2d');
    pen.drawImage(picture, 0, 0);
    return pen.getImageData(0, 0, picture.width, picture.height);
  };
  const [a, b] = [await pixels(before), await pixels(now)];
  if (a.width !== b.width || a.height !== b.height) return 1;
  let other = 0;
  for (let at = 0; at < a.data.length; at += 4) {
    const off = (k) => Math.abs(a.data[at + k] - b.data[at + k]);
    if (Math.max(off(0), off(1), off(2)) > 24) other += 1;
  }
  return other / (a.data.length / 4);
}
"""


def differing(page: Page, kept: Path, now: bytes) -> float:
    """Which share of a picture differs from the one that is kept; all of it where none is."""
    if not kept.is_file():
        return 1.0
    written = [
        f"data:image/png;base64,{b64encode(png).decode()}" for png in (kept.read_bytes(), now)
    ]
    return float(page.evaluate(DIFFERING, written))


def main() -> int:
    """Take every picture; with `--check` only say which views have moved since theirs was taken.

    Names of views take those alone.
    """
    check = "--check" in sys.argv[1:]
    SHOTS.mkdir(parents=True, exist_ok=True)
    moved = []
    with served() as address, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=chromium(), args=CHROMIUM)
        # A page of no application: the policy of Limpet's own lets none fetch data.
        beside = browser.new_page()
        asked = [name for name in sys.argv[1:] if name in VIEWS]
        for name, (go, size, scheme) in VIEWS.items():
            if asked and name not in asked:
                continue
            context = browser.new_context(
                base_url=address,
                viewport=size,
                color_scheme=scheme,
                locale="en-GB",
                reduced_motion="reduce",
                timezone_id="UTC",
            )
            page = context.new_page()
            page.goto("/")
            page.get_by_role("button", name="Open the demo").click()
            page.get_by_role("heading", name="tests").wait_for()
            go(page)
            page.evaluate("document.fonts.ready")
            picture = page.screenshot()
            share = differing(beside, SHOTS / f"{name}.png", picture)
            if share > MOVED:
                moved.append(name)
            print(f"  {name}.png: {share:.1%} of it differs from the one that is kept")
            if not check:
                (SHOTS / f"{name}.png").write_bytes(picture)
            context.close()
        browser.close()
    print(f"{len(moved)} of {len(VIEWS)} views have moved: {', '.join(moved) or 'none'}")
    return 1 if check and moved else 0


if __name__ == "__main__":
    sys.exit(main())
