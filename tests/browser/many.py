"""Two thousand tests in an account of their own: the demo's, over and over, on earlier and earlier days.

Run beside a served application: `python -m tests.browser.many NAME PASSWORD`.
"""

from __future__ import annotations

import os
import sys
from datetime import timedelta
from uuid import uuid4

MANY = 2000


def main(name: str, password: str) -> None:
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")
    import django

    django.setup()
    from django.contrib.auth.models import User

    from server.accounts.models import Account
    from server.logbook.models import RangeTest
    from server.results.models import TestResult

    owner = User.objects.create_user(name, password=password)
    demo = Account.objects.get(is_demo=True).owner
    patterns = list(
        # Whatever other tests have left in the demo: those of its own vehicles.
        RangeTest.objects.owned_by(demo)
        .filter(state="ended", vehicle__isnull=False, kept_result__isnull=False)
        .select_related("kept_result")
    )
    tests, results = [], []
    for number in range(MANY):
        pattern = patterns[number % len(patterns)]
        kept = pattern.kept_result
        test = RangeTest.objects.get(pk=pattern.pk) if number < len(patterns) else _copy(pattern)
        test.pk, test.owner = uuid4(), owner
        test.title = f"{pattern.title}, {number + 1}"
        test.sorted_at = pattern.sorted_at - timedelta(days=number // len(patterns))
        test.tags_text = "|quay|" if number % 10 == 0 else ""
        tests.append(test)
        result = _copy(kept)
        result.pk, result.test = None, test
        results.append(result)
    RangeTest.objects.bulk_create(tests, batch_size=200)
    TestResult.objects.bulk_create(results, batch_size=200)


def _copy(row):
    """A row as a new one."""
    fields = {field.attname: getattr(row, field.attname) for field in row._meta.concrete_fields}
    return type(row)(**fields)


if __name__ == "__main__":
    main(*sys.argv[1:3])
