"""A test as a file of others' formats: made anew each time from what is stored."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final, Literal

from limpet.assumptions import as_assumed
from limpet.evidence.model import RangeTest as CoreTest
from limpet.files.out import samples_csv, samples_parquet, track_geojson, track_gpx
from limpet.history import facts_of
from limpet.tell import analyse
from limpet.tell.workbook import workbook
from server.accounts.assumed import assumed_by
from server.logbook.models import RangeTest
from server.logbook.rows import core_test
from server.results.lessons import lessons_for
from server.wire.problems import ConflictError
from server.wire.turns import by_turns

Form = Literal["csv", "parquet", "gpx", "geojson", "xlsx"]
#: What each form is sent as.
TYPES: Final[dict[Form, str]] = {
    "csv": "text/csv; charset=utf-8",
    "parquet": "application/vnd.apache.parquet",
    "gpx": "application/gpx+xml",
    "geojson": "application/geo+json",
    "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
}
_MADE: Final[dict[str, Callable[[CoreTest], bytes | None]]] = {
    "csv": samples_csv,
    "parquet": samples_parquet,
    "gpx": track_gpx,
    "geojson": track_geojson,
}


@by_turns
def saved_as(test: RangeTest, form: Form) -> bytes:
    """A test in a form.

    Raises
    ------
    ConflictError
        When it has no samples, or no places, for the form to hold.
    """
    evidence = core_test(test)
    if form == "xlsx":
        with as_assumed(lambda: assumed_by(test.owner_id)):
            return _workbook(test, evidence)
    found = _MADE[form](evidence)
    if found is None:
        what = "no samples were logged" if form in ("csv", "parquet") else "no places were logged"
        raise ConflictError(f"There is nothing to save as {form.upper()}: {what} in this test.")
    return found


def _workbook(test: RangeTest, evidence: CoreTest) -> bytes:
    alone = analyse(evidence)
    priors = lessons_for(test, evidence, facts_of(evidence, alone))
    return workbook(evidence, analyse(evidence, priors) if priors.tell else alone)
