"""A maker's figure: what differed from what was claimed, of a ride of 20 km in an hour."""

import pytest

from limpet.evidence.model import Claim, Conditions, Entry, RiderSpec
from limpet.figures.claimed import claim_of
from limpet.quantity import Quantity
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


@pytest.mark.parametrize(
    ("low_km", "high_km", "mean_mps", "verdict"),
    [
        (42, 50, 5.5, "held"),
        (30, 38, 5.5, "missed"),
        (36, 44, 5.5, "cannot_tell"),
        # Slower than claimed is easier: what held so has not been shown, what was missed so was missed.
        (42, 50, 3.0, "cannot_tell"),
        (30, 38, 3.0, "missed"),
        # Faster is harder, and the other way round.
        (42, 50, 9.0, "held"),
        (30, 38, 9.0, "cannot_tell"),
        (40, 50, 5.5, "held"),
        (30, 40, 5.5, "cannot_tell"),
    ],
)
def test_a_claim_is_held_by_all_of_the_interval_and_on_no_easier_ride(
    low_km, high_km, mean_mps, verdict
):
    claim = Claim(distance_m=40_000.0, speed_mps=5.5)
    middle, half = 500.0 * (low_km + high_km), 500.0 * (high_km - low_km)
    found = Quantity.of(middle, "m", half / 2)
    told = claim_of(range_test(claim=claim), found, mean_mps)
    assert told is not None
    assert told.verdict == verdict
