"""Which backups are kept: the last of each of 7 days, 4 weeks and 12 months that have one."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from datetime import datetime
from typing import Final

#: Days, weeks and months of which the last backup is kept.
DAYS, WEEKS, MONTHS = 7, 4, 12
_PERIODS: Final[tuple[tuple[int, Callable[[datetime], str]], ...]] = (
    (DAYS, lambda at: at.strftime("%Y-%m-%d")),
    (WEEKS, lambda at: at.strftime("%G-%V")),
    (MONTHS, lambda at: at.strftime("%Y-%m")),
)


def kept(moments: Iterable[datetime]) -> set[datetime]:
    """The moments whose backups are kept.

    Parameters
    ----------
    moments : when each was made, all of one time zone

    Notes
    -----
    A period without a backup counts for nothing: after a pause the last seven days that have one are kept.
    """
    newest_first = sorted(moments, reverse=True)
    found: set[datetime] = set()
    for most, period_of in _PERIODS:
        seen: dict[str, datetime] = {}
        for moment in newest_first:
            seen.setdefault(period_of(moment), moment)
        found |= set(list(seen.values())[:most])
    return found
