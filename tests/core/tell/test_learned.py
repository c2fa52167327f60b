"""Why a result of the same evidence is another now: the lessons that are new, and bear on it."""

from __future__ import annotations

from limpet.readers import METRIC
from limpet.tell.learned import LEARNED, bearings, why_changed


def about(**changes):
    usual = {
        "chemistry": "nmc",
        "energy_methods": ["energy_counter"],
        "distance_methods": ["laps"],
        "climbs": False,
        "promises": True,
    }
    return bearings(**{**usual, **changes})


def codes(since, bears):
    return [notice.code for notice in why_changed(since, bears)]


def test_a_metered_ride_on_laps_is_told_of_promises_alone():
    assert codes(0, about()) == ["learned_promise"]


def test_each_lesson_is_told_where_it_bears():
    assert codes(0, about(chemistry="lfp", promises=False)) == ["learned_lfp"]
    assert codes(0, about(energy_methods=["from_share"], promises=False)) == [
        "learned_label",
        "learned_road",
    ]
    assert codes(0, about(distance_methods=["trip"], promises=False)) == ["learned_display"]
    assert codes(0, about(climbs=True, promises=False)) == ["learned_hills"]
    assert codes(0, about(energy_methods=["sampled"], promises=False)) == ["learned_pulls"]


def test_what_was_known_already_is_not_told_again():
    everything = frozenset(item.bears for item in LEARNED)
    assert codes(0, everything) == [item.code for item in LEARNED]
    assert codes(4, everything) == [item.code for item in LEARNED[4:]]


def test_a_change_that_no_lesson_names_is_a_smaller_correction():
    assert codes(len(LEARNED), about()) == ["learned_other"]
    assert codes(0, frozenset()) == ["learned_other"]


def test_every_lesson_has_its_sentence():
    said = [
        why_changed(k, frozenset({item.bears}))[0].said(METRIC) for k, item in enumerate(LEARNED)
    ]
    assert len(set(said)) == len(LEARNED)
    assert all(text.endswith(".") and "{" not in text for text in said)
