"""Results are derived: computed by the core, kept under the evidence and the core they come from."""

from __future__ import annotations

import logging
from collections.abc import Sequence
from functools import partial
from typing import Any, Literal
from uuid import UUID

from django.contrib.auth.models import User
from django.core.files.uploadedfile import UploadedFile
from django.db import IntegrityError, transaction
from django.db.utils import DatabaseError
from django.utils import timezone

from limpet.assumptions import as_assumed
from limpet.evidence.model import RangeTest as CoreTest
from limpet.version import core_digest
from server.accounts.assumed import assumed_by
from server.logbook import importing
from server.logbook.intake import Beside
from server.logbook.models import RangeTest
from server.logbook.rows import core_test
from server.results.changed import changed_by_learning
from server.results.figures import derived, derived_assuming
from server.results.lessons import has_teachers, lessons_for, pass_on
from server.results.models import TestResult
from server.results.queries import claim
from server.results.signals import facts_changed
from server.wire.problems import UnreadableError
from server.wire.stored import unwrapped
from server.wire.trying import next_try

logger = logging.getLogger(__name__)

#: What there is of a result: of today's evidence, being computed, waiting for its turn, impossible.
Computed = Literal["fresh", "computing", "waiting", "failed"]


def import_uploads(owner: User, test_id: UUID, files: Sequence[UploadedFile]) -> RangeTest:
    """Store a bundle that was uploaded, and its result with it: it is read once.

    Raises
    ------
    BundleError
        With every fault; nothing is stored.
    """
    return importing.import_uploads(owner, test_id, files, beside_of(owner))


def store_test(owner: User, test_id: UUID, evidence: CoreTest) -> RangeTest:
    """Store a whole test that the core has accepted, and its result with it."""
    return importing.store_test(owner, test_id, evidence, beside_of(owner))


def beside_of(owner: User) -> Beside:
    """The result of a test that is read, made and kept with it."""
    return Beside(partial(derived_assuming, assumed_by(owner)), keep_first)


def is_fresh(test: RangeTest, kept: TestResult | None) -> bool:
    """Whether a kept result is of this evidence and this core."""
    return kept is not None and (kept.revision, kept.core) == (test.revision, core_digest())


def computed_of(test: RangeTest, kept: TestResult | None) -> Computed:
    """What there is of a test's result."""
    if is_fresh(test, kept):
        return "failed" if kept is not None and kept.fault else "fresh"
    return "computing" if kept is not None and kept.is_claimed else "waiting"


def current(test: RangeTest) -> TestResult:
    """The result of one test for its own page: computed now unless it was, or somebody is at it."""
    kept: TestResult | None = getattr(test, "kept_result", None)
    if (
        kept is not None
        and is_fresh(test, kept)
        and not kept.lessons_due
        and (kept.fault or kept.detail is not None)
    ):
        return kept
    if claim(test.pk):
        # Claimed first and read then: what came in meanwhile is in it.
        test.refresh_from_db()
        return compute(test)
    return TestResult.objects.get(test_id=test.pk)


def as_kept(test: RangeTest) -> TestResult | None:
    """What is kept of a test's result, of whichever revision; None when it was never computed."""
    kept: TestResult | None = getattr(test, "kept_result", None)
    return kept if kept is not None and kept.revision else None


def compute(test: RangeTest) -> TestResult:
    """Compute and keep the result of a test that was claimed; a failure is kept with its reason."""
    # Before and not after: what is taught meanwhile is due again.
    TestResult.objects.filter(test_id=test.pk).update(lessons_due=False)
    try:
        evidence = core_test(test)
        with as_assumed(lambda: assumed_by(test.owner_id)):
            columns = derived(evidence, partial(lessons_for, test, evidence))
        return keep(test, columns)
    except DatabaseError:
        # Of the whole house and no fault of this test's: its claim runs out, and it is due again.
        raise
    except UnreadableError as error:
        return keep(test, {"fault": str(error), **_again(test, error)})
    except Exception as error:  # whatever one test does to the core, the others have their results
        logger.exception("the result of test %s could not be computed", test.pk)
        text = (
            "This result couldn’t be worked out. Your entries are safe, and Limpet will try again by itself. "
            "The server’s log says why."
        )
        return keep(test, {"fault": text, **_again(test, error)})


def _again(test: RangeTest, error: Exception) -> dict[str, Any]:
    """When a test whose result failed is tried again: later each time, from new evidence on anew."""
    kept = TestResult.objects.filter(
        test_id=test.pk, revision=test.revision, core=core_digest()
    ).first()
    tries = (kept.tries if kept is not None else 0) + 1
    return {"trouble": type(error).__name__, "tries": tries, "again_at": next_try(tries)}


_NOTHING: dict[str, Any] = {
    "fault": "",
    "claimed_until": None,
    "wh_per_km": None,
    "wh_per_km_std": None,
    "range_to_cutoff_m": None,
    "range_to_cutoff_std_m": None,
    "reach_m": None,
    "measured": False,
    "figures": None,
    "strip": None,
    "detail": None,
    "facts": None,
    "seen": None,
    "way": None,
    "trouble": "",
    "tries": 0,
    "again_at": None,
}


def keep_first(test: RangeTest, columns: dict[str, Any]) -> TestResult:
    """Keep what was computed where a test was read, which knows of no other test."""
    return keep(test, {**columns, "lessons_due": has_teachers(test)})


def keep(test: RangeTest, columns: dict[str, Any]) -> TestResult:
    """Keep what was computed of a test as it was read; what is newer already stays."""
    values = {
        **_NOTHING,
        **columns,
        **changed_by_learning(test, columns),
        "revision": test.revision,
        "core": core_digest(),
        "computed_at": timezone.now(),
    }
    rows = TestResult.objects.filter(test_id=test.pk)
    taught = unwrapped(rows.values_list("facts", flat=True).first())
    made = TestResult(test=test, **values)
    if not rows.filter(revision__lte=test.revision).update(**values):
        try:
            with transaction.atomic():
                made.save(force_insert=True)
        except IntegrityError:
            # Somebody kept one of a later revision meanwhile, or the test was removed.
            logger.info("the result of test %s was overtaken", test.pk)
    test.kept_result = made
    if unwrapped(made.facts) != taught and test.state == RangeTest.State.ENDED:
        pass_on(test)
        facts_changed.send(TestResult, test=test)
    return made


def detail_of(kept: TestResult) -> dict[str, Any]:
    """The whole result and strip of a row; empty when it could not be computed."""
    found = unwrapped(kept.detail)
    return found if isinstance(found, dict) else {}
