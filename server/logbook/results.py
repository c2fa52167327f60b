"""Results are derived: computed by the core, kept under the evidence and the core they come from."""

from __future__ import annotations

import logging
from dataclasses import asdict
from typing import Any

from django.db import IntegrityError, transaction

from limpet.result import analyse, traces_of
from limpet.version import core_digest
from server.logbook.evidence import core_test
from server.logbook.figures import columns_of
from server.logbook.models import RangeTest, TestResult
from server.wire.problems import UnreadableError
from server.wire.stored import unwrapped

logger = logging.getLogger(__name__)


def is_fresh(test: RangeTest, kept: TestResult | None) -> bool:
    """Whether a kept result is of this evidence and this core."""
    return kept is not None and (kept.revision, kept.core) == (test.revision, core_digest())


def current(test: RangeTest) -> TestResult:
    """The result of one test, computed now unless it already was; for its own page, not for lists."""
    kept: TestResult | None = getattr(test, "kept_result", None)
    if kept is not None and is_fresh(test, kept) and (kept.fault or kept.detail is not None):
        return kept
    return compute(test)


def compute(test: RangeTest) -> TestResult:
    """Compute and keep a test's result; a failure is kept as such, with its reason."""
    try:
        evidence = core_test(test)
        return keep(test, columns_of(evidence, analyse(evidence)))
    except UnreadableError as error:
        return keep(test, {"fault": str(error)})
    except Exception:  # whatever one test does to the core, the others have their results
        logger.exception("the result of test %s could not be computed", test.pk)
        text = "This result could not be computed; the evidence is kept. The server's log says why."
        return keep(test, {"fault": text})


_NOTHING: dict[str, Any] = {
    "fault": "",
    "wh_per_km": None,
    "wh_per_km_std": None,
    "range_to_cutoff_m": None,
    "range_to_cutoff_std_m": None,
    "reach_m": None,
    "measured": False,
    "figures": None,
    "strip": None,
    "detail": None,
}


def keep(test: RangeTest, columns: dict[str, Any]) -> TestResult:
    """Keep what was computed of a test as it was read; what is newer already stays."""
    values = {**_NOTHING, **columns, "revision": test.revision, "core": core_digest()}
    rows = TestResult.objects.filter(test_id=test.pk)
    made = TestResult(test=test, **values)
    if not rows.filter(revision__lte=test.revision).update(**values):
        try:
            with transaction.atomic():
                made.save(force_insert=True)
        except IntegrityError:
            # Somebody kept one of a later revision meanwhile, or the test was removed.
            logger.info("the result of test %s was overtaken", test.pk)
    test.kept_result = made
    return made


def detail_of(kept: TestResult) -> dict[str, Any]:
    """The whole result and strip of a row; empty when it could not be computed."""
    found = unwrapped(kept.detail)
    return found if isinstance(found, dict) else {}


def traces(test: RangeTest, from_s: float | None, to_s: float | None) -> dict[str, Any] | None:
    """Binned traces of a test or a part of it; None without samples."""
    if not test.chunks.exists():
        return None
    evidence = core_test(test)
    found = traces_of(evidence, analyse(evidence), from_s, to_s)
    return asdict(found) if found is not None else None
