"""Lists of tests: some rows at a time, found again by what the rows before ended with."""

from __future__ import annotations

import json
from base64 import urlsafe_b64decode, urlsafe_b64encode
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Final, Literal
from uuid import UUID

from django.contrib.auth.models import AnonymousUser, User
from django.db.models import Count, F, Max, Q, QuerySet

from limpet.evidence.model import EndReason, Purpose
from limpet.version import core_digest
from server.logbook.models import RangeTest
from server.logbook.rows import tags_of
from server.results.queries import with_rows
from server.wire.problems import FieldError

#: Rows of one page of a list.
MOST_ROWS = 100
#: Vehicles, packs, riders and tags to choose from.
MOST_NAMES = 200
#: Tests whose tags are looked through for what there is to choose from, newest first.
MOST_TAGGED = 2000

Account = User | AnonymousUser
Sort = Literal["newest", "oldest", "title", "vehicle", "pack", "consumption", "range"]
Season = Literal["dec_feb", "mar_may", "jun_aug", "sep_nov"]
_MONTHS: Final[dict[Season, tuple[int, int, int]]] = {
    "dec_feb": (12, 1, 2),
    "mar_may": (3, 4, 5),
    "jun_aug": (6, 7, 8),
    "sep_nov": (9, 10, 11),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Key:
    """A column that rows are sorted by; what is not known comes last."""

    path: str
    down: bool = False
    may_lack: bool = False


_NEWEST: Final = (Key(path="sorted_at", down=True), Key(path="pk", down=True))
#: The keys of each order; the last one tells any two rows apart.
SORTS: Final[dict[Sort, tuple[Key, ...]]] = {
    "newest": _NEWEST,
    "oldest": (Key(path="sorted_at"), Key(path="pk")),
    "title": (Key(path="title"), *_NEWEST),
    "vehicle": (Key(path="vehicle_name"), *_NEWEST),
    "pack": (Key(path="pack_name"), *_NEWEST),
    "consumption": (Key(path="kept_result__wh_per_km", may_lack=True), *_NEWEST),
    "range": (Key(path="kept_result__range_to_cutoff_m", down=True, may_lack=True), *_NEWEST),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Wanted:
    """What a list is to hold; nothing said is everything."""

    vehicle: str = ""
    pack: str = ""
    rider: str = ""
    purpose: Purpose | None = None
    ended: EndReason | None = None
    season: Season | None = None
    tag: str = ""
    words: str = ""
    sort: Sort = "newest"


@dataclass(frozen=True, slots=True, kw_only=True)
class Page:
    """Some tests, what gives the next ones, and how many fit the filters."""

    tests: list[RangeTest]
    next: str | None
    count: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Summary:
    """All of an account's tests together, and what there is to choose from."""

    tests: int
    measured: int
    waiting: int
    reach_m: float
    vehicles: list[str]
    packs: list[str]
    riders: list[str]
    tags: list[str]


def page_of(user: Account, wanted: Wanted, *, after: str, most: int) -> Page:
    """A page of an account's tests, in two queries however many there are.

    Raises
    ------
    FieldError
        When `after` is nothing that a page before gave.
    """
    owned = _fitting(RangeTest.objects.owned_by(user), wanted)
    keys = SORTS[wanted.sort]
    rows = with_rows(owned).order_by(*(_order(key) for key in keys))
    if after:
        rows = rows.filter(_beyond(keys, _place(after, keys)))
    found = list(rows[: most + 1])
    last = found[most - 1] if len(found) > most else None
    return Page(
        tests=found[:most],
        next=_named(last, keys) if last is not None else None,
        count=owned.count(),
    )


def _fitting(owned: Any, wanted: Wanted) -> Any:
    names = {"vehicle_name": wanted.vehicle, "pack_name": wanted.pack, "rider_name": wanted.rider,
             "purpose": wanted.purpose, "ended_how": wanted.ended}  # fmt: skip
    owned = owned.filter(**{column: value for column, value in names.items() if value})
    if wanted.season is not None:
        owned = owned.filter(month__in=_MONTHS[wanted.season])
    if wanted.tag:
        owned = owned.filter(tags_text__contains=f"|{wanted.tag}|")
    return owned.naming(wanted.words)


def _order(key: Key) -> Any:
    column = F(key.path)
    return column.desc(nulls_last=True) if key.down else column.asc(nulls_last=True)


def _beyond(keys: Sequence[Key], values: Sequence[Any]) -> Q:
    """Rows that come after one with these values, in the order of the keys."""
    found = Q()
    same = Q()
    for key, value in zip(keys, values, strict=True):
        if value is None:
            # What is not known comes last: only the later keys go on.
            same &= Q(**{f"{key.path}__isnull": True})
            continue
        later = Q(**{f"{key.path}__{'lt' if key.down else 'gt'}": value})
        if key.may_lack:
            later |= Q(**{f"{key.path}__isnull": True})
        found |= same & later
        same &= Q(**{key.path: value})
    return found


def _named(test: RangeTest, keys: Sequence[Key]) -> str:
    """A row by what it is sorted by, for an address."""
    values: list[Any] = []
    for key in keys:
        value: Any = test
        for step in key.path.split("__"):
            value = getattr(value, step, None)
        values.append(value.isoformat() if isinstance(value, datetime) else value)
    text = json.dumps([str(value) if isinstance(value, UUID) else value for value in values])
    return urlsafe_b64encode(text.encode()).decode().rstrip("=")


def _place(after: str, keys: Sequence[Key]) -> list[Any]:
    try:
        values = json.loads(urlsafe_b64decode(after + "=" * (-len(after) % 4)))
        if not isinstance(values, list) or len(values) != len(keys):
            raise ValueError(after)
        return [_value(key, value) for key, value in zip(keys, values, strict=True)]
    except (ValueError, TypeError, AttributeError) as cause:
        raise FieldError({"after": "is not what a page of the list gave as next"}) from cause


def _value(key: Key, value: Any) -> Any:
    if value is None and key.may_lack:
        return None
    if key.path == "pk":
        return UUID(value)
    if key.path == "sorted_at":
        found = datetime.fromisoformat(value)
        if found.tzinfo is None:
            raise ValueError(value)
        return found
    wanted = float if key.may_lack else str
    if not isinstance(value, (int, float) if wanted is float else str):
        raise ValueError(value)
    return wanted(value)


def summary(user: Account) -> Summary:
    """What the logbook's first line, its scale and its filters need, in a few queries."""
    owned = RangeTest.objects.owned_by(user)
    fresh = Q(kept_result__revision=F("revision"), kept_result__core=core_digest())
    found = owned.aggregate(
        tests=Count("pk"),
        measured=Count("pk", filter=Q(kept_result__measured=True)),
        fresh=Count("pk", filter=fresh),
        reach=Max("kept_result__reach_m"),
    )
    return Summary(
        tests=found["tests"],
        measured=found["measured"],
        waiting=found["tests"] - found["fresh"],
        reach_m=found["reach"] or 0.0,
        vehicles=_names(owned, "vehicle_name"),
        packs=_names(owned, "pack_name"),
        riders=_names(owned, "rider_name"),
        tags=_tags(owned),
    )


def _names(owned: QuerySet[RangeTest], column: str) -> list[str]:
    names = owned.exclude(**{column: ""}).values_list(column, flat=True).distinct()
    return list(names.order_by(column)[:MOST_NAMES])


def _tags(owned: QuerySet[RangeTest]) -> list[str]:
    texts = owned.exclude(tags_text="").order_by("-sorted_at").values_list("tags_text", flat=True)
    found = {tag for text in texts[:MOST_TAGGED] for tag in tags_of(text)}
    return sorted(found)[:MOST_NAMES]
