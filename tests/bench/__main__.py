"""Print every timing with the machine's name and its ratio to a yardstick measured beside it."""

from __future__ import annotations

import json
import os
import platform
import re
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from statistics import median

import numpy as np
import polars as pl
from playwright.sync_api import Locator, Page

from limpet.evidence.model import RangeTest
from limpet.files import read_bundle, write_zip
from limpet.tell import analyse
from tests.bench.chaos import bench_chaos
from tests.bench.covered import bench_covered
from tests.bench.forecasts import bench_fit, bench_slider, bench_walk
from tests.bench.imports import bench_imports
from tests.bench.judgements import bench_judgements
from tests.bench.load import bench_load
from tests.bench.mutants import bench_mutants
from tests.bench.recompute import bench_recompute
from tests.bench.results import bench_core, bench_process
from tests.bench.roadside import bench_ride
from tests.bench.screens import bench_screens
from tests.calibration.bets import KINDS, outcome
from tests.calibration.floors import floors
from tests.calibration.further import said as further
from tests.calibration.lives import told
from tests.calibration.pairs import judged
from tests.calibration.promises import told as promised
from tests.calibration.table import TAUGHT, printed, table
from tests.chromium import chromium
from tests.strategies import sheet

REPEATS = 5
#: Riders, instruments, seconds.
LOADS = [(8, 0, 60), (32, 0, 90), (64, 0, 90), (0, 20, 45), (0, 50, 45), (0, 100, 45), (32, 50, 90)]
#: True differences, how many pairs of each, and runs of each side.
VERDICTS = [
    (0.0, 100, 1), (0.05, 60, 1), (0.10, 60, 1), (0.20, 80, 1), (0.0, 20, 3), (0.05, 20, 3), (0.10, 20, 3),
]  # fmt: skip


def logged(rows: int, hertz: float) -> RangeTest:
    """A generated ride of a given number of samples, all columns of a common logger."""
    rng = np.random.default_rng(1)
    time_s = np.arange(rows) / hertz
    amps = np.round(8 + 3 * np.sin(time_s / 30) + rng.normal(0, 0.5, rows), 2)
    charge = np.cumsum(amps) / hertz / 3600
    volts = np.round(54.6 - 0.12 * amps - 10 * charge / max(charge[-1], 1), 2)
    frame = pl.DataFrame(
        {
            "time_s": np.round(time_s, 3),
            "voltage_v": volts,
            "current_a": amps,
            "speed_mps": np.round(6 + rng.normal(0, 0.1, rows), 2),
            "distance_m": np.round(time_s * 6, 1),
            "altitude_m": np.round(10 * np.sin(time_s / 500), 1),
        }
    )
    return RangeTest(sheet=sheet(title="A long log"), samples=frame)


def best_of(run: Callable[[], object]) -> tuple[float, float]:
    """Minimum and median seconds of several runs."""
    taken = []
    for _ in range(REPEATS):
        begun = time.perf_counter()
        run()
        taken.append(time.perf_counter() - begun)
    return min(taken), median(taken)


def line(what: str, seconds: tuple[float, float], aim: str, ratio: float | None = None) -> None:
    against = "" if ratio is None else f"  {ratio:5.2f} x yardstick"
    print(f"{what:<52}{seconds[0]:8.3f} s min {seconds[1]:8.3f} s median{against}  aim {aim}")


def bench_analyse(folder: Path) -> None:
    """`analyse` of a million samples against polars reading the same CSV, and its memory."""
    for name, data in _files(logged(1_000_000, 50.0)).items():
        (folder / name).write_bytes(data)
    size_mb = (folder / "samples.csv").stat().st_size / 1e6
    yardstick = best_of(lambda: pl.read_csv(folder / "samples.csv"))
    line(f"yardstick: polars reads {size_mb:.0f} MB of CSV", yardstick, "-")
    whole = best_of(lambda: analyse(read_bundle(folder)))
    line("read a bundle of 1,000,000 samples and analyse it", whole, "2 x", whole[0] / yardstick[0])
    bench_process(best_of, line, folder)


def _files(test: RangeTest) -> dict[str, bytes]:
    from limpet.files import bundle_files

    return bundle_files(test)


def bench_page(folder: Path) -> None:
    """Import of 100,000 samples until the result is on the screen; its first drawing."""
    from playwright.sync_api import sync_playwright

    from tests.browser.conftest import CHROMIUM, served

    bundle = folder / "log.zip"
    bundle.write_bytes(write_zip(logged(100_000, 10.0)))
    with served() as address, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=chromium(), args=CHROMIUM)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"{address}/")
        yardstick = best_of(lambda: page.request.get(f"{address}/api/session"))
        line("yardstick: one empty request", yardstick, "-")
        page.get_by_role("button", name="Open the demo").click()
        page.get_by_role("heading", name="tests").wait_for()
        imported, drawn, ids = [], [], []
        for _ in range(REPEATS):
            page.goto(f"{address}/import")
            chooser = page.locator("input[type=file]")
            chooser.wait_for(state="attached")
            begun = time.perf_counter()
            chooser.set_input_files(bundle)
            page.get_by_role("button", name="Save the bundle").click()
            page.get_by_role("heading", name="How sure, and why").wait_for()
            imported.append(time.perf_counter() - begun)
            drawn_traces(page).wait_for()
            here = page.url
            ids.append(here.rsplit("/", 1)[-1])
            page.goto(f"{address}/kit/vehicles")
            page.get_by_text("Whimbrel", exact=True).wait_for()
            begun = time.perf_counter()
            page.goto(here)
            drawn_traces(page).wait_for()
            drawn.append(time.perf_counter() - begun)

        seconds = (min(imported), median(imported))
        line(
            "import 100,000 samples, result on the screen",
            seconds,
            "2 s",
            seconds[0] / yardstick[0],
        )
        seconds = (min(drawn), median(drawn))
        line("Result page of it, cold, traces drawn", seconds, "1 s", seconds[0] / yardstick[0])
        bench_compare(page, address, ids, yardstick[0])
        browser.close()


def drawn_traces(page: Page) -> Locator:
    """The traces of a result, once they stand."""
    return page.get_by_role("img", name=re.compile("^Traces of"))


def bench_compare(page: Page, address: str, ids: list[str], yardstick_s: float) -> None:
    """Two rides of 100,000 samples side by side, the whole page opened until every run is drawn."""
    found = []
    for _ in range(REPEATS):
        page.goto(f"{address}/kit/vehicles")
        page.get_by_text("Whimbrel", exact=True).wait_for()
        begun = time.perf_counter()
        page.goto(f"{address}/compare?first={ids[0]}&second={ids[1]}")
        page.get_by_role("img", name=re.compile("^Difference of B from A")).wait_for()
        found.append(time.perf_counter() - begun)
    seconds = (min(found), median(found))
    line("Compare page of two such rides, cold", seconds, "0.6 s", seconds[0] / yardstick_s)


def numbers(usual: list[int]) -> list[int]:
    """The numbers behind a bench's name; the usual ones for those that are not given."""
    given = sys.argv[2:]
    if len(given) > len(usual) or not all(word.isdigit() for word in given):
        sys.exit(f"bench {sys.argv[1]} takes up to {len(usual)} whole numbers, as in: {' '.join(map(str, usual))}")  # fmt: skip
    return [int(word) for word in given] + usual[len(given) :]


def main() -> None:
    if sys.argv[1:2] == ["calibration"]:
        # How honest the intervals are, not how fast: rides with a known truth.
        (riders,) = numbers([3])
        print(printed(table(riders)))
        print("\nAfter three metered rides of the same vehicle and pack:")
        print(printed(table(riders, kinds=TAUGHT, taught=3)))
        print("\nThe cell's own set left out of the family:")
        print(printed(table(riders, cells="left_out")))
        print("\nCells of another chemistry than the rider says:")
        print(printed(table(riders, cells="foreign")))
        return
    if sys.argv[1:2] == ["floors"]:
        (rides,) = numbers([20])
        for text in floors(rides):
            print(text, flush=True)
        return
    if sys.argv[1:2] == ["decisions"]:
        riders = int(sys.argv[2]) if len(sys.argv) > 2 else 3
        kinds = tuple(kind for kind in KINDS if kind in sys.argv[3:]) or KINDS
        print(outcome(riders=riders, kinds=kinds, processes=os.cpu_count() or 1))
        return
    if sys.argv[1:2] == ["verdicts"]:
        for difference, pairs, runs in VERDICTS:
            print(judged(difference, pairs, runs), flush=True)
        print(told(1000, seed=11))
        return
    if sys.argv[1:2] == ["further"]:
        (every,) = numbers([1])
        print(further(max(every, 1)))
        return
    if sys.argv[1:2] == ["promises"]:
        (worlds,) = numbers([300])
        print(promised(worlds))
        return
    if sys.argv[1:2] == ["chaos"]:
        (kills,) = numbers([300])
        sys.exit(1 if bench_chaos(min(kills, 2000)) else 0)
    if sys.argv[1:2] == ["mutants"]:
        (count,) = numbers([20_000])
        sys.exit(0 if bench_mutants(min(count, 1_000_000)) else 1)
    if sys.argv[1:2] == ["load"]:
        cases = LOADS if len(sys.argv) == 2 else [tuple(numbers([32, 0, 60]))]
        for riders, instruments, seconds in cases:
            bench_load(riders, instruments, seconds)
        return
    if sys.argv[1:2] == ["covered"]:
        sys.exit(bench_covered(sys.argv[2:]))
    if sys.argv[1:2] == ["recompute"]:
        (count,) = numbers([2000])
        bench_recompute(min(count, 20_000))
        return
    if sys.argv[1:2] == ["ride"]:
        bench_ride()
        return
    if sys.argv[1:2] == ["page"]:
        with tempfile.TemporaryDirectory() as folder:
            bench_page(Path(folder))
        bench_screens()
        return
    if sys.argv[1:2] == ["imports"]:
        with tempfile.TemporaryDirectory() as name:
            bench_imports(best_of, line, Path(name))
        return
    if sys.argv[1:2] == ["screens"]:
        bench_screens()
        return
    model = next(
        (text.split(":")[1].strip() for text in Path("/proc/cpuinfo").read_text().splitlines() if text.startswith("model name")),
        platform.machine(),
    )  # fmt: skip
    print(f"{platform.node()}: {os.cpu_count()} x {model}, Python {platform.python_version()}")
    print(json.dumps({"polars": pl.__version__, "numpy": np.__version__, "repeats": REPEATS}))
    with tempfile.TemporaryDirectory() as folder:
        bench_core(best_of, line, logged)
        bench_walk(best_of, line)
        bench_fit(best_of, line)
        bench_judgements(best_of, line, logged)
        bench_slider(best_of, line)
        bench_analyse(Path(folder))
        bench_page(Path(folder))


if __name__ == "__main__":
    main()
