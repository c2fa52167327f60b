"""Distance by five methods."""

from dataclasses import replace

import numpy as np
import polars as pl
import pytest
from geographiclib.geodesic import Geodesic

from limpet.evidence.model import (
    Ending,
    Entry,
    Instrument,
    Instruments,
    LapInstrument,
    RangeTest,
    SampleSources,
)
from limpet.tell import analyse
from tests.strategies import accuracies, range_test, sheet


def entry(time_s, kind="checkpoint", **values):
    return Entry(time_s=time_s, kind=kind, **values)


def methods(test):
    return {m.method: m for m in analyse(test).distance_methods}


LOOP = Instruments(lap=LapInstrument(length_m=1720.0, accuracy_pct=0.5))


def test_laps_times_the_measured_length():
    test = range_test(
        entry(0, "start"), entry(300, "lap", laps=1), entry(1000, "end", laps=3.5), instruments=LOOP
    )
    found = methods(test)["laps"].quantity
    assert found.value == pytest.approx(3.5 * 1720)
    # The length's gain (GUM 4.3.7), and a part lap that was noted to about 0.03 (assumption).
    gain = 3.5 * 1720 * 0.005 / 3**0.5
    assert found.standard_uncertainty == pytest.approx(np.hypot(gain, 0.03 * 1720))


def test_completed_laps_leave_the_lap_that_was_begun():
    # 27 laps of 1720 m count 46,440 m where anything up to a lap more was ridden: half a lap more,
    # ± L/√12, unless the line was just crossed.
    counted = range_test(entry(0, "start"), entry(9000, "end", laps=27), instruments=LOOP)
    found = methods(counted)["laps"].quantity
    assert found.value == pytest.approx(27.5 * 1720)
    assert found.standard_uncertainty == pytest.approx(
        np.hypot(27.5 * 1720 * 0.005 / 3**0.5, 1720 / 12**0.5)
    )
    crossed = range_test(entry(0, "start"), entry(9000, "lap", laps=27), instruments=LOOP)
    assert methods(crossed)["laps"].quantity.value == pytest.approx(27 * 1720)


def test_the_pace_of_the_laps_before_tells_where_in_the_next_one_a_ride_ended():
    crossings = [entry(600.0 * k, "lap", laps=k) for k in range(1, 6)]
    for end_s, true in ((3600.0, 6.0), (3240.0, 5.4)):
        test = range_test(
            entry(0, "start"), *crossings, entry(end_s, "end", laps=int(true)), instruments=LOOP
        )
        found = methods(test)["laps"].quantity
        assert found.value == pytest.approx(true * 1720, rel=1e-3)
        assert found.standard_uncertainty < 0.12 * 1720


def test_the_wheel_tells_how_far_into_the_lap():
    # The trip meter reads 3% high; its scale comes from the laps, the part lap from it.
    true = 27.27 * 1720
    test = range_test(
        entry(0, "start", laps=0, trip_m=0.0), entry(4000, "lap", laps=12, trip_m=12 * 1720 * 1.03),
        entry(9000, "end", laps=27, trip_m=true * 1.03), instruments=LOOP,
    )  # fmt: skip
    found = methods(test)["laps"].quantity
    assert found.value == pytest.approx(true, rel=1e-3)
    assert found.relative < 0.02


def test_counts_alone_bound_the_scale_of_a_trip_meter():
    true = 9.6 * 1720
    reads = [entry(1000.0 * k, laps=int(1.2 * k), trip_m=1.2 * k * 1720 * 1.05) for k in range(9)]
    found = methods(range_test(*reads, instruments=LOOP))["laps"].quantity
    assert found.low <= true <= found.high
    assert found.relative < 0.06


def test_nothing_is_ridden_at_rest():
    # A trip meter at 44.0 km at a stop, then an end that carries only volts: 44.0, not 47.7.
    test = range_test(
        entry(0, "start", trip_m=0.0, voltage_rest_v=54.4), entry(7200, "stop", trip_m=44_000.0),
        entry(7800, "end", voltage_rest_v=44.0),
    )  # fmt: skip
    result = analyse(test)
    assert result.distance.value == pytest.approx(44_000)
    assert (np.diff(result.distance_line.total) >= 0).all()


def test_a_planned_route_is_taken_where_nothing_else_tells():
    gpx = (
        b'<gpx version="1.1"><trk><trkseg><trkpt lat="55.0" lon="-3.0"/>'
        b'<trkpt lat="55.1" lon="-3.0"/></trkseg></trk></gpx>'
    )
    home = Ending(reason="home")
    test = range_test(entry(0, "start"), entry(3600, "end"), ending=home)
    found = methods(replace(test, route_gpx=gpx))["route"]
    assert found.used
    # A tenth of a degree of latitude at 55° N: 11,135 m (GeographicLib, WGS 84).
    assert found.quantity.value == pytest.approx(11_135, rel=1e-3)


def test_lap_entries_count_themselves():
    laps = [entry(300.0 * k, "lap") for k in range(1, 5)]
    test = range_test(entry(0, "start"), *laps, instruments=LOOP)
    assert methods(test)["laps"].quantity.value == pytest.approx(4 * 1720)


def test_a_piece_after_the_last_reading_is_filled_in_and_doubtful():
    test = range_test(entry(0, "start", trip_m=0.0), entry(1000, trip_m=5000.0), entry(1200, "end"))
    found = methods(test)["trip"]
    assert found.quantity.value == pytest.approx(6000)
    assert found.quantity.standard_uncertainty > 0.3 * 1000
    assert "cover 83% of the ride" in found.note


def test_a_trip_meter_that_was_not_noted_at_the_start_was_zero():
    test = range_test(
        entry(0, "start"), entry(600, trip_m=3000.0), entry(1200, "end", trip_m=6000.0)
    )
    assert methods(test)["trip"].quantity.value == pytest.approx(6000)


def test_a_trip_meter_that_was_not_reset_is_not_taken_from_zero():
    test = range_test(
        entry(0, "start"), entry(600, trip_m=93_000.0), entry(1200, "end", trip_m=96_000.0)
    )
    assert methods(test)["trip"].quantity.value == pytest.approx(6000)


def test_an_odometer_is_a_difference_and_a_reset_trip_counts_on():
    test = range_test(
        entry(0, "start", odometer_m=1_200_000.0, trip_m=0.0),
        entry(600, trip_m=3000.0),
        entry(900, trip_m=500.0),
        entry(1200, "end", odometer_m=1_206_000.0, trip_m=2500.0),
    )
    found = methods(test)
    assert found["odometer"].quantity.value == pytest.approx(6000)
    # Counted twice from an exact zero by a display of one decimal: half a step each.
    assert found["trip"].quantity.value == pytest.approx(5600)
    assert any(w.code == "counter_reset" for w in analyse(test).warnings)


def track(n=400, still=60):
    """A wandering track of fixes a second apart that first stands with jitter."""
    rng = np.random.default_rng(3)
    heading = np.cumsum(rng.normal(0, 0.05, n))
    north = np.concatenate([np.zeros(still), np.cumsum(5 * np.cos(heading))])
    east = np.concatenate([np.zeros(still), np.cumsum(5 * np.sin(heading))])
    jitter = rng.normal(0, 0.1, (2, still))
    north[:still] += jitter[0]
    east[:still] += jitter[1]
    return 47.5 + north / 111_200, -24.5 + east / (111_320 * np.cos(np.radians(47.5)))


def test_a_track_has_geographiclibs_length():
    # geographiclib 2.1 over the moving part; the standing jitter of 0.1 m does not count.
    latitude, longitude = track()
    frame = pl.DataFrame(
        {"time_s": np.arange(460.0), "latitude_deg": latitude, "longitude_deg": longitude}
    )
    expected = sum(
        Geodesic.WGS84.Inverse(latitude[k], longitude[k], latitude[k + 1], longitude[k + 1])["s12"]
        for k in range(60, 459)
    )
    found = methods(range_test(samples=frame, instruments=accuracies(gps=2.0)))["gps"].quantity
    assert found.value == pytest.approx(expected, rel=3e-3)
    assert found.relative == pytest.approx(0.02 / 3**0.5)


def test_a_hole_in_the_track_is_bridged_and_widens_the_result():
    latitude, longitude = track(still=0)
    frame = pl.DataFrame(
        {"time_s": np.arange(400.0), "latitude_deg": latitude, "longitude_deg": longitude}
    )
    whole = methods(range_test(samples=frame))["gps"]
    holed = methods(range_test(samples=frame.filter(~pl.col("time_s").is_between(100, 160))))["gps"]
    assert holed.quantity.value == pytest.approx(whole.quantity.value, rel=0.05)
    assert holed.quantity.relative > whole.quantity.relative
    assert "1 hole in the track" in holed.note


def test_a_track_of_every_thirtieth_second_gets_its_bends_back():
    """The same winding ride with a place each second and each half minute."""
    rng = np.random.default_rng(5)
    heading = np.cumsum(rng.normal(0, 0.12, 3600))
    north, east = np.cumsum(8 * np.cos(heading)), np.cumsum(8 * np.sin(heading))
    time = np.arange(3600.0)

    def ridden(every):
        samples = pl.DataFrame(
            {
                "time_s": time[::every],
                "latitude_deg": (north / 111_320)[::every],
                "longitude_deg": (east / 111_320)[::every],
            }
        )
        return methods(replace(range_test(entry(0, "start"), entry(3570, "end")), samples=samples))[
            "gps"
        ]

    each, half_minute = ridden(1), ridden(30)
    assert "bends" in half_minute.note
    assert "bends" not in each.note
    lost = half_minute.quantity.value / each.quantity.value - 1
    assert abs(lost) < 0.02
    assert half_minute.quantity.standard_uncertainty > 1.5 * each.quantity.standard_uncertainty


def gpx(times=True, origin="2026-05-14T09:12:"):
    points = [[(47.5 + k * 1e-4, 10 * s + k) for k in range(10)] for s in range(2)]
    stamp = lambda second: f"<time>{origin}{second:02d}Z</time>" if times else ""  # noqa: E731
    segments = "".join(
        "<trkseg>"
        + "".join(
            f'<trkpt lat="{lat}" lon="{-24.5 + s * 0.01}">{stamp(t)}</trkpt>' for lat, t in part
        )
        + "</trkseg>"
        for s, part in enumerate(points)
    )
    return f'<gpx version="1.1" creator="t"><trk>{segments}</trk></gpx>'.encode()


def test_a_ridden_route_counts_and_its_segments_are_not_joined():
    from datetime import datetime, timezone

    start = datetime(2026, 5, 14, 9, 12, tzinfo=timezone.utc)
    test = RangeTest(
        sheet=sheet(started_at=start),
        entries=(entry(0, "start"), entry(19, "end")),
        route_gpx=gpx(),
    )
    one = Geodesic.WGS84.Inverse(47.5, -24.5, 47.5009, -24.5)["s12"]
    assert methods(test)["gps"].quantity.value == pytest.approx(2 * one, rel=1e-6)
    planned = RangeTest(sheet=test.sheet, entries=test.entries, route_gpx=gpx(times=False))
    assert "gps" not in methods(planned)


def test_the_loggers_distance_has_the_accuracy_of_its_instrument():
    frame = pl.DataFrame({"time_s": np.arange(601.0), "distance_m": np.arange(601.0) * 5})
    for source, percent in (("trip", 5.0), ("gps", 2.0)):
        instruments = Instruments(
            trip=Instrument(accuracy_pct=5.0), gps=Instrument(accuracy_pct=2.0),
            samples=SampleSources(distance=source),
        )  # fmt: skip
        found = methods(range_test(samples=frame, instruments=instruments))["samples"].quantity
        assert found.value == pytest.approx(3000)
        assert found.relative == pytest.approx(percent / 100 / 3**0.5)


def test_speed_is_integrated_when_there_is_no_distance():
    # Closed form: v = 5 + sin(t/60) over 600 s → 3000 + 60·(1 − cos 10).
    time = np.arange(601.0)
    frame = pl.DataFrame({"time_s": time, "speed_mps": 5 + np.sin(time / 60)})
    found = methods(range_test(samples=frame))["samples"]
    assert found.quantity.value == pytest.approx(3000 + 60 * (1 - np.cos(10)), rel=1e-4)


def test_the_least_uncertain_distance_is_used_and_a_wrong_trip_meter_named():
    test = range_test(
        entry(0, "start", laps=0, trip_m=0.0), entry(999, "lap", laps=4, trip_m=4 * 1720 * 1.07),
        instruments=Instruments(lap=LapInstrument(length_m=1720, accuracy_pct=0.5), trip=Instrument(accuracy_pct=3.0)),
    )  # fmt: skip
    found = methods(test)
    assert found["laps"].used
    assert not found["trip"].agrees
    assert any(
        "The trip meter gives 7% more distance than the laps" in w.message
        for w in analyse(test).warnings
    )
