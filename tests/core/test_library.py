"""`import limpet`: the public names, the example of the docs, and a wheel that stands alone."""

import doctest
import subprocess
import sys
import tomllib
import venv
from pathlib import Path

import pytest

import limpet
from demo.skerrow import ridden
from limpet import tell
from limpet.errors import LimpetError, UnitError
from limpet.files import write_zip
from limpet.library import MOST_TESTS

ROOT = Path(__file__).resolve().parents[2]
RIDE = ROOT / "docs/examples/ride"


def test_the_example_of_the_docs_does_what_it_says(monkeypatch):
    monkeypatch.chdir(ROOT)
    failed, tried = doctest.testfile(str(ROOT / "docs/library.md"), module_relative=False)
    assert (failed, tried) == (0, 11)


def test_every_public_name_is_there_and_stands_in_the_docs():
    said = (ROOT / "docs/library.md").read_text()
    for name in limpet.__all__:
        assert getattr(limpet, name) is not None
        assert f"`{name}" in said
    assert set(limpet.__all__) == set(dir(limpet))
    with pytest.raises(AttributeError, match="it has Quantity"):
        _ = limpet.nothing


def test_one_version_is_told_everywhere():
    assert tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]["dynamic"] == ["version"]
    changes = (ROOT / "CHANGELOG.md").read_text()
    assert changes.split("## ", 2)[1].startswith(limpet.__version__)


def test_it_gives_what_the_core_gives():
    test = limpet.read_bundle(RIDE)
    assert limpet.analyse(RIDE).to_json() == tell.analyse(test).to_json()
    assert limpet.analyse(test).to_json() == limpet.analyse(str(RIDE)).to_json()
    assert repr(limpet.analyse(test)).startswith("Result(distance=12950 ± ")
    assert "<th>energy</th>" in limpet.analyse(test)._repr_html_()


def test_earlier_tests_teach(tmp_path):
    earlier = [ridden("turnstone-quay-cutoff"), ridden("turnstone-bars")]
    alone = limpet.analyse(ridden("turnstone-claim"))
    taught = limpet.analyse(ridden("turnstone-claim"), taught_by=earlier)
    assert any(item.source.startswith("learned") for item in taught.inputs)
    assert not any(item.source.startswith("learned") for item in alone.inputs)
    under_way = limpet.follow(ridden("turnstone-claim"), until_s=1800, taught_by=earlier)
    assert any(item.source.startswith("learned") for item in under_way.inputs)
    with pytest.raises(LimpetError, match=f"at most {MOST_TESTS}"):
        limpet.analyse(RIDE, taught_by=[RIDE] * (MOST_TESTS + 1))


def test_two_are_compared_and_a_ride_is_followed_on_its_way(tmp_path):
    pair = []
    for slug in ("knot-2024-9", "knot-2026-9"):
        pair.append(tmp_path / f"{slug}.zip")
        pair[-1].write_bytes(write_zip(ridden(slug)))
    assert limpet.compare(pair[:1], pair[1:]).verdict == "second_less"
    with pytest.raises(LimpetError, match="at least one test for each side"):
        limpet.compare(pair, [])
    trip = ROOT / "docs/examples/trip.json"
    told = limpet.follow(RIDE, trip, until_s=1300)
    assert told.way is not None
    whole_m = limpet.forecast(trip).route.distance_m
    assert told.way.left_m == pytest.approx(whole_m - told.distance.value, rel=0.02)
    # Without a trip the way is back as it was ridden.
    assert limpet.follow(RIDE, until_s=1300).way.left_m < 0.5 * whole_m


def test_legs_and_traces_are_tables_in_three_dialects():
    test = ridden("sandpiper-lighthouse")
    result = limpet.analyse(test)
    legs = limpet.legs_table(result)
    assert len(legs) == len(result.legs) > 3
    assert legs.to_polars()["energy_wh"].to_list() == [leg.energy.value for leg in result.legs]
    assert legs.to_arrow().column("distance_m").to_pylist() == [
        leg.distance_m for leg in result.legs
    ]
    frame = limpet.traces_table(test, result).to_pandas()
    assert {"time_s", "distance_m", "voltage_mean_v", "speed_mean_mps"} <= set(frame.columns)
    assert frame["voltage_low_v"].min() <= frame["voltage_mean_v"].min()
    assert len(limpet.traces_table(RIDE)) == 0


@pytest.mark.parametrize(
    ("spec", "words"),
    [
        ("", "23.4 ± 1.2 Wh/km"),
        ("u", "23.4 ± 1.2 Wh/km"),
        (".2f", "23.41"),
        (".2fu", "23.41 ± 1.20 Wh/km"),
    ],
)
def test_a_quantity_prints_as_it_is_asked(spec, words):
    # To two figures of the half-width: GUM 7.2.6.
    found = limpet.Quantity.of(23.41, "Wh/km", 0.6)
    assert format(found, spec) == words
    assert repr(found) == "Quantity(23.4 ± 1.2 Wh/km)"
    assert "23.4 ± 1.2" in found._repr_html_()


def test_large_small_and_exact_quantities_print_plainly():
    of = limpet.Quantity.of
    assert str(of(37712.0, "m", 4750.0)) == "37700 ± 9500 m"
    assert str(of(0.91234, "1", 0.0123)) == "0.912 ± 0.025"
    assert str(of(12.0, "Ah")) == "12 Ah"


def test_quantities_of_one_unit_are_ordered_and_others_are_not():
    of = limpet.Quantity.of
    small, large = of(1.0, "Wh", 0.1), of(2.0, "Wh", 0.5)
    assert small < large
    assert large >= small
    assert not small > large
    assert small <= of(1.0, "Wh", 0.2) <= small
    assert len({small, of(1.0, "Wh", 0.1), large}) == 2
    with pytest.raises(UnitError, match="bring both to one unit"):
        _ = small < of(1.0, "Ah")
    with pytest.raises(TypeError, match="with a Quantity"):
        _ = small < 3


def test_a_wheel_installs_and_answers_without_the_application(tmp_path):
    wheels = tmp_path / "wheels"
    build = [sys.executable, "-m", "pip", "wheel", "--no-deps", "--no-build-isolation", "-q"]
    subprocess.run([*build, "-w", str(wheels), str(ROOT)], check=True)
    (wheel,) = wheels.glob(f"limpet-{limpet.__version__}-*.whl")
    home = tmp_path / "venv"
    venv.create(home, with_pip=False)
    site = next(home.glob("lib/python*/site-packages"))
    install = [sys.executable, "-m", "pip", "install", "--no-deps", "-q", "--target", str(site)]
    subprocess.run([*install, str(wheel)], check=True)
    # What it stands on is lent by the environment of the tests; the application's packages are not to be had.
    own = Path(next(path for path in sys.path if path.endswith("site-packages")))
    (site / "lent.pth").write_text(f"{own}\n")
    program = (
        "import sys\n"
        "sys.modules.update(dict.fromkeys(('django', 'ninja', 'server', 'demo')))\n"
        "import limpet\n"
        f"assert limpet.__file__.startswith({str(site)!r}), limpet.__file__\n"
        f"energy = limpet.analyse({str(RIDE)!r}).energy\n"
        "print(f'{energy:u}')\n"
    )
    # From elsewhere, with nothing of the checkout on its path.
    told = subprocess.run(
        [home / "bin/python", "-c", program],
        cwd=tmp_path,
        env={"PATH": "/usr/bin:/bin"},
        check=True,
        capture_output=True,
        text=True,
    )
    assert told.stdout.strip() == f"{limpet.analyse(RIDE).energy:u}"
    assert (site / "limpet/py.typed").is_file()
    assert (site / "limpet/pack/data/ocv_lfp_prada2013.csv").is_file()
