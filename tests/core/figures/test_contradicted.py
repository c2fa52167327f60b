"""Readings that cannot all be true tell no range: which they are, and the pack with which they could."""

from __future__ import annotations

import pytest

from limpet.cli import main
from limpet.evidence.model import Ending, Entry
from limpet.files import write_zip
from limpet.pack import PackSpec
from limpet.tell import analyse
from tests.strategies import range_test


def stops(*volts, end=None, apart_m=4000.0, **sheet):
    """Volts at rest every few kilometres, at 20 km/h, the last at the end."""
    entries = [
        Entry(
            time_s=0.18 * apart_m * k,
            kind="start" if k == 0 else "end" if k == len(volts) - 1 else "checkpoint",
            trip_m=apart_m * k,
            voltage_rest_v=read,
        )
        for k, read in enumerate(volts)
    ]
    return range_test(*entries, ending=None if end is None else Ending(reason=end), **sheet)


def cells(series, chemistry="nmc", **more):
    return PackSpec(chemistry=chemistry, series=series, rated_ah=12.0, **more)


def said(result):
    return {notice.code: notice for notice in result.warnings}


def test_volts_that_go_up_and_down_tell_no_range_and_nothing_that_hangs_on_it():
    result = analyse(stops(54.4, 45.0, 53.9, 44.0, 53.8, pack=cells(13)))
    told = result.to_json()
    for name in ("energy", "consumption", "energy_used_fraction", "range_to_cutoff", "range_to_reserve",
                 "plan_on", "gauge_truth", "packs"):  # fmt: skip
        assert told[name] is None, name
    assert told["pack"]["usable_energy_wh"] is None
    assert told["distance"]["value"] == 16_000
    assert not any(item["used"] for item in told["energy_methods"])
    notices = said(result)
    assert notices["readings_contradict"].values["what"] == "resting volts"
    assert result.verdict[-1].code == "verdict_contradicted"
    # What to note next time is not what is wrong here.
    assert not notices.keys() & {"no_range", "no_energy", "no_capacity", "began_part_empty"}


@pytest.mark.parametrize(
    ("volts", "sheet", "truly"),
    [
        ((58.6, 56.6, 54.6, 52.7, 51.2), cells(13), "14 cells in series"),
        ((54.4, 52.0, 50.0, 48.0, 46.0), cells(16, "lfp"), "13 cells of NMC"),
        ((53.6, 52.8, 52.6, 52.0, 48.5), cells(13, cutoff_v=40.0), "16 cells of LFP"),
    ],
    ids=["fourteen for thirteen", "a layered oxide for iron phosphate", "iron phosphate for a layered oxide"],
)  # fmt: skip
def test_a_sheet_of_another_pack_is_asked_about(volts, sheet, truly):
    end = "cutoff" if truly.endswith("LFP") else None
    # Such a pack carries a bicycle over 30 km.
    notices = said(analyse(stops(*volts, end=end, apart_m=8000.0, pack=sheet)))
    assert truly in notices["other_pack_fits"].values["what"]


def test_amp_hours_of_another_label_are_asked_about():
    """From full to the end a meter counted twice what the label says."""
    entries = (
        Entry(time_s=0.0, kind="start", trip_m=0.0, charge_ah=0.0, voltage_rest_v=54.5),
        Entry(time_s=3600.0, kind="checkpoint", trip_m=20_000.0, charge_ah=9.0, voltage_rest_v=48.0),
        Entry(time_s=7200.0, kind="end", trip_m=40_000.0, charge_ah=19.5, voltage_rest_v=42.5),
    )  # fmt: skip
    result = analyse(
        range_test(*entries, pack=cells(13, cutoff_v=39.0), ending=Ending(reason="cutoff"))
    )
    assert "amp-hours" in said(result)["other_pack_fits"].values["what"]
    # It was ridden from full to the end, whatever the label says.
    assert result.range_to_cutoff.value == pytest.approx(40_000)
    assert result.range_to_cutoff.high < 44_000
    assert result.pack.capacity_ah.value == pytest.approx(19.5)


def test_readings_that_agree_ask_nothing():
    notices = said(analyse(stops(54.4, 52.0, 50.0, 48.0, 46.0, pack=cells(13))))
    assert not notices.keys() & {"readings_contradict", "end_contradicts", "other_pack_fits"}


def test_an_end_that_no_label_explains_keeps_its_range_and_tells_no_energy():
    """Nine kilometres from full to cut-off: a dead group, or a pack that was not full."""
    result = analyse(
        range_test(
            Entry(time_s=0.0, kind="start", trip_m=0.0),
            Entry(time_s=3600.0, kind="end", trip_m=4000.0),
            ending=Ending(reason="cutoff"),
        )
    )
    assert result.range_to_cutoff.value == pytest.approx(4000)
    assert result.range_to_cutoff.high < 1.2 * 4000
    assert result.energy is None
    assert "ridden_against_label" in said(result)
    assert "assumed_full" in said(result)


def test_the_command_says_why_it_tells_none(tmp_path, capsys):
    path = tmp_path / "ride.zip"
    path.write_bytes(write_zip(stops(54.4, 45.0, 53.9, 44.0, 53.8, pack=cells(13))))
    assert main(["analyse", str(path)]) == 0
    printed = " ".join(capsys.readouterr().out.split())
    assert "These readings can’t all be true" in printed
    assert "these readings can’t all be true" in printed
