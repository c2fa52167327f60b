"""What cost much is kept by what it was made from: asked again it is there, and nothing old is told."""

from __future__ import annotations

import pytest

from server.kit.models import Pack
from server.plans import tides_api
from server.results import comparing
from server.results.worker import look_once
from server.wire.kept import Kept
from tests.server.conftest import note
from tests.server.test_compare import two  # noqa: F401
from tests.server.test_tidetable import path_of


def test_the_one_asked_for_longest_ago_goes_first():
    kept, made = Kept(2), []

    def of(key):
        return kept.of(key, lambda: made.append(key) or f"answer {key}")

    assert [of(key) for key in "abacaab"] == [f"answer {key}" for key in "abacaab"]
    # `b` was pushed out by `c`; `a` had been asked for in between.
    assert "".join(made) == "abcb"
    assert len(kept) == 2


def test_what_fails_is_not_kept():
    kept = Kept(2)
    with pytest.raises(ZeroDivisionError):
        kept.of("a", lambda: 1 / 0)
    assert kept.of("a", lambda: 1) == 1


@pytest.fixture
def computed(monkeypatch):
    """The calls that a computation took, made as ever."""
    calls = []

    def counted(module, name):
        real = getattr(module, name)
        monkeypatch.setattr(module, name, lambda *given: calls.append(name) or real(*given))

    counted(tides_api, "tide_table")
    counted(comparing, "offers")
    return calls


def test_a_tide_table_is_computed_once_for_each_kit_and_what_is_assumed_of_it(ines, kit, computed):
    first = ines.get(path_of(kit)).json()
    assert ines.get(path_of(kit)).json() == first
    assert computed == ["tide_table"]
    pack = Pack.objects.get(pk=kit["pack_id"])
    half = {"name": pack.name, "chemistry": pack.chemistry, "series": pack.series}
    answer = ines.put(f"/packs/{pack.pk}", {**half, "rated_ah": pack.rated_ah / 2})
    assert answer.status_code == 200, answer.content
    smaller = ines.get(path_of(kit)).json()
    assert smaller["typical_m"][0][0][0] < 0.7 * first["typical_m"][0][0][0]
    assert (
        ines.put("/assumptions/air_pressure_pa", {"value": 70_000, "std": 0.0}).status_code == 200
    )
    higher = ines.get(path_of(kit)).json()
    assert higher["floor_m"][0][0][-1] > smaller["floor_m"][0][0][-1]
    assert computed == ["tide_table"] * 3


def test_offers_are_made_anew_when_a_test_was(ines, two, kit, computed):  # noqa: F811
    for one in two:
        assert ines.put(f"/tests/{one}/ending", {"reason": "home"}).status_code == 200
    look_once()
    path = "/compare/offers?question=repeat"
    first = ines.get(path).json()
    assert ines.get(path).json() == first
    assert computed == ["offers"]
    ines.get("/compare/offers?question=vehicle")
    assert computed == ["offers"] * 2
    note(ines, two[0], 900, "checkpoint", trip_m="2 mi")
    look_once()
    ines.get(path)
    assert computed == ["offers"] * 3


def test_what_is_kept_costs_few_questions(ines, two, kit, django_assert_max_num_queries):  # noqa: F811
    look_once()
    ines.get("/compare/offers?question=repeat")
    with django_assert_max_num_queries(7):
        ines.get("/compare/offers?question=repeat")
