"""A maker's figure: what differed from what was claimed, of a ride of 20 km in an hour."""

import pytest

from limpet.evidence.model import Claim, Conditions, Entry, RiderSpec
from limpet.tell import analyse
from tests.strategies import range_test


def differs(claim, **sheet):
    result = analyse(
        range_test(
            Entry(time_s=0, kind="start", trip_m=0.0, voltage_rest_v=54.4),
            Entry(time_s=3600, kind="end", trip_m=20_000.0, voltage_rest_v=47.0),
            claim=claim,
            **sheet,
        )
    )
    assert result.claim is not None
    return result.claim.differs


@pytest.mark.parametrize(
    ("claimed_mps", "said"), [(5.5, ()), (4.0, ("faster",)), (8.0, ("slower",)), (None, ())]
)
def test_another_speed_is_told_by_the_speed_while_moving(claimed_mps, said):
    assert differs(Claim(distance_m=40_000.0, speed_mps=claimed_mps)) == said


def test_load_and_cold_are_told():
    claim = Claim(distance_m=40_000.0, load_kg=75.0)
    heavy = RiderSpec(mass_kg=90.0, gear_kg=5.0)
    assert differs(claim, rider=heavy) == ("heavier",)
    assert differs(claim, rider=RiderSpec(mass_kg=55.0, gear_kg=2.0)) == ("lighter",)
    frost = Conditions(temp_start_c=-2.0, temp_end_c=1.0)
    assert differs(claim, rider=heavy, conditions=frost) == ("heavier", "cold")
