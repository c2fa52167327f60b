"""At a stop somebody asks whether what is left brings them home; `./limpet bench decisions` asks them all.

Of those that were told 90 to 97 %, as many should get there; and whoever turns where it says "turn by"
should hardly ever be stranded.
"""

import pytest

from tests.calibration.decisions import HELD, MOST_STRANDED, decide


@pytest.fixture(scope="module")
def decided():
    """Every second stop."""
    return decide(every=2)


def test_of_those_who_are_told_that_they_get_home_so_many_do(decided):
    assert len(decided.home) >= 20
    assert HELD[0] <= decided.home.mean() <= HELD[1]


def test_whoever_turns_in_time_is_hardly_ever_stranded(decided):
    assert len(decided.stranded) >= 20
    assert decided.stranded.mean() <= MOST_STRANDED
