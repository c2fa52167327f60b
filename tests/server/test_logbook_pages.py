"""Pages of the logbook: every order gives each test once, filters find what sheets say, many at once."""

import io
import zipfile
from datetime import datetime, timedelta, timezone
from random import Random
from uuid import uuid4

import pytest
from django.core.management import call_command
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

from server.logbook.models import RangeTest
from server.results.listing import SORTS
from server.results.models import TestResult
from tests.server.conftest import note

BEGAN = datetime(2026, 3, 1, 9, 0, tzinfo=timezone.utc)


@pytest.fixture
def shelf(ines):
    """Fifty-seven tests with equal titles, times and figures among them, and some without any."""
    draw = Random(7)
    tests = [
        RangeTest(
            owner=ines.user,
            title=f"Round {draw.randrange(9)}",
            sheet={"bundle": 1, "title": "x", "vehicle": {"kind": "trike"}},
            vehicle_name=draw.choice(["", "Dunlin", "Whimbrel"]),
            pack_name=draw.choice(["Auk", "Eider"]),
            ended_how=draw.choice(["home", "cutoff"]),
            month=draw.choice([1, 7, None]),
            tags_text=draw.choice(["", "|quay|", "|quayside|"]),
            sorted_at=BEGAN + timedelta(days=draw.randrange(20)),
        )
        for _ in range(57)
    ]
    RangeTest.objects.bulk_create(tests)
    TestResult.objects.bulk_create(
        TestResult(
            test=test,
            revision=1,
            core="x",
            wh_per_km=draw.choice([None, 8.5, 9.25, draw.uniform(5, 20)]),
            range_to_cutoff_m=draw.choice([None, 40_000.0, draw.uniform(1e4, 9e4)]),
        )
        for test in tests[:50]
    )
    return tests


@pytest.mark.parametrize("sort", sorted(SORTS))
def test_every_order_gives_each_test_once_and_in_that_order(ines, shelf, sort):
    found, after = [], ""
    for _ in range(20):
        page = ines.get(f"/tests?most=7&sort={sort}&after={after}").json()
        assert (page["summary"] is None) == bool(after)
        found += [row["id"] for row in page["items"]]
        after = page["next"]
        if after is None:
            break
    assert len(found) == len(set(found)) == 57
    by_id = {str(test.pk): test for test in shelf}
    kept = {str(result.test_id): result for result in TestResult.objects.all()}
    values = {
        "newest": lambda i: by_id[i].sorted_at,
        "oldest": lambda i: by_id[i].sorted_at,
        "title": lambda i: by_id[i].title,
        "vehicle": lambda i: by_id[i].vehicle_name,
        "pack": lambda i: by_id[i].pack_name,
        "consumption": lambda i: kept[i].wh_per_km if i in kept else None,
        "range": lambda i: kept[i].range_to_cutoff_m if i in kept else None,
    }
    order = [values[sort](test_id) for test_id in found]
    known = [value for value in order if value is not None]
    assert order[: len(known)] == known
    assert known == sorted(known, reverse=sort in ("newest", "range"))


@pytest.mark.parametrize(
    ("query", "wanted"),
    [
        ("vehicle=Dunlin", lambda t: t.vehicle_name == "Dunlin"),
        ("pack=Auk", lambda t: t.pack_name == "Auk"),
        ("ended=cutoff", lambda t: t.ended_how == "cutoff"),
        ("season=dec_feb", lambda t: t.month == 1),
        ("season=sep_nov", lambda t: False),
        ("tag=quay", lambda t: t.tags_text == "|quay|"),
        ("pack=Auk&season=jun_aug", lambda t: t.pack_name == "Auk" and t.month == 7),
    ],
)
def test_filters(ines, shelf, query, wanted):
    page = ines.get(f"/tests?most=100&{query}").json()
    expected = {str(test.pk) for test in shelf if wanted(test)}
    assert {row["id"] for row in page["items"]} == expected
    assert page["count"] == len(expected)
    assert page["summary"]["tests"] == 57


@pytest.mark.parametrize("bad", ["x", "W10", "WzFd", "bnVsbA", "W251bGwsbnVsbCxudWxsXQ"])
def test_a_place_that_no_page_gave_is_refused(ines, shelf, bad):
    for sort in ("newest", "range", "vehicle"):
        answer = ines.get(f"/tests?sort={sort}&after={bad}")
        assert answer.status_code == 422
        assert "after" in answer.json()["fields"]


@pytest.mark.parametrize("query", ["sort=sideways", "season=monsoon", "ended=never"])
def test_what_no_filter_can_be_is_refused(ines, query):
    assert ines.get(f"/tests?{query}").status_code == 422


def test_what_a_sheet_says_is_what_the_logbook_finds(ines, ridden):
    assert ines.put(f"/tests/{ridden}/ending", {"reason": "home"}).status_code == 200
    base = ines.get(f"/tests/{ridden}").json()["sheet"]["changes"]
    body = {"test": {"title": "Quay", "tags": ["winter", "wet|road"],
                     "started_at": "2026-01-04T09:00:00+02:00"}}  # fmt: skip
    assert ines.put(f"/tests/{ridden}/sheet", {"base": base, **body}).status_code == 200
    row = ines.get("/tests?tag=winter&season=dec_feb&ended=home").json()["items"][0]
    assert (row["id"], row["tags"]) == (ridden, ["winter", "wet/road"])
    assert ines.get("/tests").json()["summary"]["tags"] == ["wet/road", "winter"]


def test_many_are_removed_had_back_and_exported_all_or_none(ines, tobias, kit, ridden):
    other = str(uuid4())
    body = {"title": "Second", "started_at": "2026-05-15T09:00:00+02:00", **kit}
    assert ines.put(f"/tests/{other}", body).status_code == 200
    note(ines, other, 5, "start", voltage_rest_v=54.0, trip_m=0)
    both = {"ids": [ridden, other]}
    archive = b"".join(ines.get(f"/tests/bundles.zip?ids={ridden}&ids={other}").streaming_content)
    names = zipfile.ZipFile(io.BytesIO(archive)).namelist()
    assert {name.split("/")[0] for name in names} == {"01-second", "02-harbour-and-back"}
    # One that is not there, or somebody else's, and nothing is exported.
    assert ines.get(f"/tests/bundles.zip?ids={ridden}&ids={uuid4()}").status_code == 404
    assert tobias.get(f"/tests/bundles.zip?ids={ridden}").status_code == 404
    # One that is somebody else's, and nothing is removed.
    assert ines.post("/tests/remove", {"ids": [ridden, str(uuid4())]}).status_code == 404
    assert ines.get("/tests").json()["count"] == 2
    assert tobias.post("/tests/remove", both).status_code == 404
    assert ines.post("/tests/remove", both).status_code == 204
    assert ines.get("/tests").json()["count"] == 0
    assert ines.post("/tests/restore", both).status_code == 204
    assert ines.get("/tests").json()["count"] == 2
    assert ines.post("/tests/remove", {"ids": []}).status_code == 422


@pytest.mark.django_db(transaction=True)
def test_tests_of_before_are_found_by_what_their_sheets_say(ines):
    """Rows of before these columns get them by the migration, odd ones among them."""
    sheets = [
        {"ending": {"reason": "cutoff"}},
        {"schema": 1, "core": "x", "value": {"ending": {"reason": "home"}}},
        {"ending": "by the church"},
        {"ending": {"reason": 7}},
        [],
    ]
    for sheet in sheets:
        RangeTest.objects.create(
            owner=ines.user, title="x", sheet=sheet, started_at_text="2026-07-04T09:00:00+02:00"
        )
    executor = MigrationExecutor(connection)
    executor.migrate([("logbook", "0013_found_by_more")])
    executor.loader.build_graph()
    executor.migrate([("logbook", "0014_found_by_what_sheets_say")])
    call_command("migrate", verbosity=0)
    found = list(RangeTest.objects.order_by("created_at").values_list("ended_how", "month"))
    assert sorted(found) == [("", 7), ("", 7), ("", 7), ("cutoff", 7), ("home", 7)]
