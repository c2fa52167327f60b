"""What `import limpet` offers: the core's functions for who has files, not a server."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from os import PathLike
from pathlib import Path
from typing import TYPE_CHECKING

from limpet.assumptions import Assumptions, Spread
from limpet.errors import LimpetError
from limpet.evidence.model import RangeTest
from limpet.files.read import read_bundle as _read_bundle
from limpet.state.priors import NOTHING, Priors
from limpet.table import Table
from limpet.tell import Result
from limpet.tell import analyse as _analyse

if TYPE_CHECKING:
    from limpet.judge.answer import Comparison, Question
    from limpet.outlook.answer import Forecast
    from limpet.under_way.answer import Following

#: A bundle's folder or zip, or a test that was read already.
TestOrPath = RangeTest | str | PathLike[str]
#: What is assumed otherwise, by name (`limpet.assumptions.assumptions()` lists them): a value, or value and u.
Changes = Mapping[str, float | Spread]
#: How a channel's unit ends the name of its columns.
_SUFFIXES = {
    "V": "_v", "A": "_a", "W": "_w", "Ah": "_ah", "Wh": "_wh", "m": "_m", "m/s": "_mps", "degC": "_c", "": ""
}  # fmt: skip
#: Tests that may teach one, or stand on a side of a comparison.
MOST_TESTS = 200


def read_bundle(path: str | PathLike[str]) -> RangeTest:
    """Read a bundle, a folder or a zip (docs/formats/bundle.md).

    Parameters
    ----------
    path : of the folder or the zip

    Returns
    -------
    RangeTest

    Raises
    ------
    limpet.errors.BundleError
        With every fault of every file, each with its line and column.
    """
    return _read_bundle(Path(path))


def analyse(
    test: TestOrPath,
    *,
    taught_by: Iterable[TestOrPath] = (),
    assumptions: Changes | None = None,
) -> Result:
    """Energy, distance, consumption and range of a test, each with its uncertainty.

    Parameters
    ----------
    test : a test, or the path of its bundle
    taught_by : earlier tests, 200 at most; those of the same vehicle and pack teach this one
    assumptions : what is assumed otherwise, by name; whatever is assumed around the call is not

    Returns
    -------
    Result; what the evidence cannot give is None

    Raises
    ------
    limpet.errors.LimpetError
        When a bundle cannot be read, when there are too many, or when nothing of that name is assumed.
    """
    with Assumptions.of(assumptions or {}).hold():
        here = _test(test)
        return _analyse(here, _taught(here, taught_by))


def follow(
    test: TestOrPath,
    trip: str | PathLike[str] | None = None,
    *,
    until_s: float | None = None,
    taught_by: Iterable[TestOrPath] = (),
    assumptions: Changes | None = None,
) -> Following:
    """What a ride under way has left, and whether it is enough for the way that is left.

    Parameters
    ----------
    test : as recorded so far, or the path of its bundle
    trip : path of a trip file that says the way; back as it was ridden when None
    until_s : nothing that was recorded later is looked at [s]
    taught_by : earlier tests, 200 at most
    assumptions : what is assumed otherwise, by name; whatever is assumed around the call is not

    Returns
    -------
    Following

    Raises
    ------
    limpet.errors.LimpetError
        When a file cannot be read.
    """
    from limpet.files.tripfile import read_trip
    from limpet.under_way import follow as answer

    with Assumptions.of(assumptions or {}).hold():
        here = _test(test)
        read = None if trip is None else read_trip(Path(trip))
        return answer(
            here,
            None if read is None else read.trip,
            None if read is None else read.route,
            until_s=until_s,
            priors=_taught(here, taught_by, road=True),
        )


def forecast(
    trip: str | PathLike[str],
    *,
    taught_by: Iterable[TestOrPath] = (),
    assumptions: Changes | None = None,
) -> Forecast:
    """How far, how long and how sure: the trip of a file (docs/formats/trip.md).

    Parameters
    ----------
    trip : path of the trip file
    taught_by : tests of its vehicle and its pack, by their names, 200 at most
    assumptions : what is assumed otherwise, by name; whatever is assumed around the call is not

    Returns
    -------
    Forecast

    Raises
    ------
    limpet.errors.LimpetError
        When a file cannot be read.
    """
    from limpet.files.tripfile import read_trip
    from limpet.history import informed, learn_trip
    from limpet.outlook.forecast import forecast as answer

    with Assumptions.of(assumptions or {}).hold():
        read = read_trip(Path(trip))
        teachers = _tests(taught_by)
        asked = informed(read.trip, learn_trip(teachers, read.trip)) if teachers else read.trip
        return answer(asked, read.route, read.notices)


def compare(
    first: Sequence[TestOrPath],
    second: Sequence[TestOrPath],
    question: Question | None = None,
    *,
    assumptions: Changes | None = None,
) -> Comparison:
    """Judge two tests, or two groups of repeated tests (docs/formats/compare.md).

    Parameters
    ----------
    first, second : the tests of each side, in the order of the ride
    question : what differs on purpose; what the tests themselves say when None
    assumptions : what is assumed otherwise, by name; whatever is assumed around the call is not

    Returns
    -------
    Comparison; "not_comparable" with its reason where nothing can be said

    Raises
    ------
    limpet.errors.LimpetError
        When a side is empty, or a bundle cannot be read.
    """
    from limpet.judge.comparand import comparand_of
    from limpet.judge.compare import compare as answer

    if not first or not second:
        raise LimpetError("compare: give at least one test for each side")
    with Assumptions.of(assumptions or {}).hold():
        tests = _tests([*first, *second])
        seen = [comparand_of(test, _analyse(test), f"bundle {k}") for k, test in enumerate(tests)]
        return answer(seen[: len(first)], seen[len(first) :], question)


def legs_table(result: Result) -> Table:
    """The legs of a result as a table: one row a leg, energies and consumptions with their u.

    Parameters
    ----------
    result : of a test

    Returns
    -------
    one row a leg; lengths [m], energies [Wh], consumptions [Wh/km], speeds [m/s]
    """
    legs = result.legs
    return Table(
        {
            "by": [leg.by for leg in legs],
            "name": [leg.name for leg in legs],
            "from_m": [leg.from_m for leg in legs],
            "to_m": [leg.to_m for leg in legs],
            "distance_m": [leg.distance_m for leg in legs],
            "energy_wh": [leg.energy.value for leg in legs],
            "energy_wh_u": [leg.energy.standard_uncertainty for leg in legs],
            "wh_per_km": [leg.wh_per_km.value for leg in legs],
            "wh_per_km_u": [leg.wh_per_km.standard_uncertainty for leg in legs],
            "ascent_m": [leg.ascent_m for leg in legs],
            "mean_speed_mps": [leg.mean_speed_mps for leg in legs],
        }
    )


def traces_table(test: TestOrPath, result: Result | None = None) -> Table:
    """What was logged, in bins over time, as a table; empty of a test without samples.

    Parameters
    ----------
    test : a test, or the path of its bundle
    result : of that test, where there is one already
    """
    from limpet.figures.traces import traces_of

    here = _test(test)
    line = (result or _analyse(here)).distance_line
    found = traces_of(here.samples, line)
    if found is None:
        return Table({"time_s": []})
    columns: dict[str, Sequence[object]] = {"time_s": found.time_s}
    if found.distance_m is not None:
        columns["distance_m"] = found.distance_m
    for channel in found.channels:
        unit = _SUFFIXES[channel.unit]
        columns[f"{channel.name}_low{unit}"] = channel.low
        columns[f"{channel.name}_mean{unit}"] = channel.mean
        columns[f"{channel.name}_high{unit}"] = channel.high
    return Table(columns)


def _test(test: TestOrPath) -> RangeTest:
    return test if isinstance(test, RangeTest) else read_bundle(test)


def _tests(tests: Iterable[TestOrPath]) -> list[RangeTest]:
    given = list(tests)
    if len(given) > MOST_TESTS:
        raise LimpetError(f"{len(given)} tests were given; at most {MOST_TESTS} are looked at")
    return [_test(test) for test in given]


def _taught(test: RangeTest, teachers: Iterable[TestOrPath], *, road: bool = False) -> Priors:
    earlier = _tests(teachers)
    if not earlier:
        return NOTHING
    from limpet.history import learn

    return learn(earlier, test, road=road)
