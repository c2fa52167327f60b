"""Tests that go out as bundles: one, or several in one archive."""

from __future__ import annotations

import re
from collections.abc import Sequence
from tempfile import TemporaryFile
from typing import IO
from uuid import UUID
from zipfile import ZIP_DEFLATED, ZipFile

from django.contrib.auth.models import User

from limpet.files import write_zip
from limpet.files.write import bundle_files
from server.logbook.models import RangeTest
from server.logbook.rows import core_test


def export_zip(test: RangeTest) -> bytes:
    """The test as a zipped bundle."""
    return write_zip(core_test(test, photos=True))


def export_many(owner: User, test_ids: Sequence[UUID]) -> IO[bytes]:
    """Several tests in one archive, a bundle's folder each; they are written one after the other.

    Raises
    ------
    DoesNotExist
        When one of them is not there.
    """
    wanted = set(test_ids)
    tests = RangeTest.objects.owned_by(owner).filter(pk__in=list(wanted)).newest_first()
    if tests.count() != len(wanted):
        raise RangeTest.DoesNotExist
    found: IO[bytes] = TemporaryFile()  # noqa: SIM115 - whoever sends it closes it
    with ZipFile(found, "w", ZIP_DEFLATED) as archive:
        for number, test_id in enumerate(tests.values_list("pk", flat=True), start=1):
            test = RangeTest.objects.owned_by(owner).get(pk=test_id)
            folder = f"{number:02d}-{slug_of(test.title)}"
            for name, data in bundle_files(core_test(test, photos=True)).items():
                archive.writestr(f"{folder}/{name}", data)
    found.seek(0)
    return found


def slug_of(title: str) -> str:
    """A title as a file's name."""
    return re.sub(r"[^a-z0-9]+", "-", title.lower()).strip("-")[:60] or "test"
