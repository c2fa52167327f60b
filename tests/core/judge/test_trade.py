"""What riders compared and concluded, and the verdicts that a careful person would give.

Common practice, no source: twins of a scooter, ten laps to six; two motors on one pack, told by volts.
"""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

from limpet.evidence.model import (
    Ending,
    Entry,
    Instruments,
    LapInstrument,
    RangeTest,
    RiderSpec,
    TestSheet,
    VehicleSpec,
)
from limpet.judge import comparand_of, compare
from limpet.pack.spec import PackSpec
from limpet.tell import analyse

LAP = LapInstrument(name="Quay loop", length_m=1200.0)
BEGUN = datetime(2026, 5, 14, 9, tzinfo=UTC)


def ridden(
    title, vehicle, pack, entries, *, kind="kick_scooter", series=10, ah=10.0, ended=None, at=0
):
    """A ride in laps with what its rider wrote down."""
    return RangeTest(
        sheet=TestSheet(
            title=title,
            started_at=BEGUN + timedelta(hours=at),
            vehicle=VehicleSpec(name=vehicle, kind=kind),
            pack=PackSpec(name=pack, chemistry="nmc", series=series, rated_ah=ah),
            rider=RiderSpec(name="Ines", mass_kg=78.0),
            instruments=Instruments(lap=LAP),
            ending=ended,
        ),
        entries=tuple(entries),
    )


def laps(counted, volts, *, lap_s=250.0):
    """Entries as whole laps were done, with the volts at rest."""
    kinds = ["start", *["lap"] * (len(counted) - 2), "end"]
    return [
        Entry(time_s=lap * lap_s, kind=kind, laps=lap, voltage_rest_v=volt)
        for lap, kind, volt in zip(counted, kinds, volts, strict=True)
    ]


def judged(*tests, question=None):
    first, second = (comparand_of(test, analyse(test), test.sheet.title) for test in tests)
    return compare([first], [second], question)


def test_a_worn_twin_of_six_laps_against_ten_has_less_range_and_not_by_volts_alone():
    stopped = Ending(reason="cutoff")
    fresh = ridden(
        "fresh",
        "Sanderling",
        "Eider-2",
        laps([0, 4, 7, 10], [42.0, 38.6, 36.6, 34.0]),
        ended=stopped,
    )
    worn = ridden(
        "worn",
        "Sanderling",
        "Eider-1",
        laps([0, 2, 4, 6], [42.0, 38.6, 36.6, 34.0]),
        ended=stopped,
        at=3,
    )
    answer = judged(fresh, worn, question="pack")
    assert answer.quantity == "range_to_cutoff"
    assert answer.verdict == "second_less"
    # Six of ten: four tenths fewer, and the interval says how surely; "worn out" is not all of it.
    found = answer.relative_difference
    assert found.low < -0.4 < found.high < -0.15


def test_a_motor_called_a_fifth_worse_by_its_laps_uses_nearly_twice_the_energy():
    """The same eight laps: one came home at 38.4 V, the other at 35.6; the laps were the same."""
    hub = ridden("hub", "Ruff, hub", "Eider-2", laps([0, 3, 5, 8], [42.0, 40.6, 39.5, 38.4]))
    geared = ridden(
        "geared", "Ruff, geared", "Eider-2", laps([0, 3, 5, 8], [42.0, 39.0, 37.2, 35.7]), at=3
    )
    answer = judged(hub, geared, question="vehicle")
    # What volts tell is how far each goes on one pack: about half as far is twice the energy a lap.
    assert answer.quantity == "range_to_cutoff"
    assert answer.verdict == "second_less"
    assert answer.relative_difference.high < -0.15
    assert -0.6 < answer.relative_difference.value < -0.33
    assert "compare_single" in {notice.code for notice in answer.warnings}


def test_a_lap_less_on_a_windy_day_is_no_verdict():
    """Ten laps against nine, single runs by volts: a careful person says nothing yet."""
    one = ridden("calm", "Sanderling", "Eider-2", laps([0, 4, 7, 10], [42.0, 38.6, 36.6, 34.0]))
    two = ridden(
        "windy", "Sanderling", "Eider-2", laps([0, 3, 6, 9], [42.0, 38.6, 36.6, 34.0]), at=26
    )
    answer = judged(one, two)
    assert answer.verdict == "no_difference_shown"
    assert answer.smallest_seen > 0.1
