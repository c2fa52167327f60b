"""Distance by five methods, each with its own uncertainty."""

from __future__ import annotations

from typing import Final, Literal

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import InstrumentName
from limpet.evidence.columns import label_of
from limpet.evidence.gaps import gap_threshold_s
from limpet.evidence.model import RangeTest
from limpet.evidence.trapezoid import running
from limpet.files.gpx import read_gpx
from limpet.notices import Notice
from limpet.notices.remarks import Remark, remark
from limpet.read.accuracy import accuracy
from limpet.read.display_step import display_step_m, left_away_m
from limpet.read.laps import lap_estimate
from limpet.read.line import (
    FILL_STD,
    DistanceMethod,
    Estimate,
    Line,
    completed,
    counted_on,
    estimate,
)
from limpet.read.moving import STANDING_MPS, driving_line
from limpet.read.pieces import with_pieces
from limpet.read.window import RideWindow
from limpet.road import step_lengths_m
from limpet.road.bends import BENDS_STD, UNSEEN_AT_S, UNSEEN_STD, bends_m

FloatArray = NDArray[np.float64]
#: Time [s], latitude and longitude [deg] of the fixes, shape (n,), and which steps are joined, shape (n − 1,).
Fixes = tuple[FloatArray, FloatArray, FloatArray, NDArray[np.bool_]]

#: Fixes closer in time than this add jitter, not shape [s] (assumption).
LEAST_FIX_STEP_S = 0.95
#: A straight line across a hole in a track misses its bends: relative u of that piece (assumption).
TRACK_HOLE_STD = 0.15
#: Places further apart than this in time cut the bends between them [s] (assumption).
FAR_APART_S = 4.0
#: A planned route is not quite what was ridden: relative u (assumption).
ROUTE_STD = 0.03
#: A test of less distance than this says nothing of consumption [m].
LEAST_DISTANCE_M = 1.0


def distance_methods(test: RangeTest, ride: RideWindow) -> tuple[list[Estimate], list[Notice]]:
    """Every distance that the evidence gives over the ride proper, in the order of bundle.md.

    Parameters
    ----------
    test : as recorded
    ride : the window

    Returns
    -------
    estimates [m] with their u, and what is to be said of them
    """
    notices: list[Notice] = []
    driving = driving_line(test, ride)
    others = _instruments(test, ride, driving, notices)
    latest = _read_last(test, ride, others)
    if latest is not None:
        # What one did not read any more another did: no reading is passed over by the pace of before.
        name, line, until_s = latest
        again = {item.method: item for item in _instruments(test, ride, line, [])}
        others = [
            item
            if item.method == name or _last_read_s(test, ride, item.method) >= until_s - 1.0
            else again.get(item.method, item)
            for item in others
        ]
    told = [item for item in others if item.line.span > LEAST_DISTANCE_M]
    # The one with the most readings tells best where in a lap the ride ended.
    finer = max(told, key=lambda item: len(item.line.time_s), default=None)
    laps = lap_estimate(test, ride, None if finer is None else finer.line, driving)
    if laps is not None and laps.line.span > LEAST_DISTANCE_M:
        told = [laps, *told]
    if not told:
        planned = _route(test, ride, driving)
        told = [planned] if planned is not None else []
    # Who says that all of it was pushed has ridden nothing.
    ridden = with_pieces(test, ride, told)
    return [item for item in ridden if item.line.span > LEAST_DISTANCE_M], notices


def _instruments(
    test: RangeTest, ride: RideWindow, progress: Line, notices: list[Notice]
) -> list[Estimate]:
    """What each instrument of the way reads; what it did not read is filled in by a line of progress."""
    found = [
        _gps(test, ride, progress, notices),
        _counter(test, ride, progress, "trip", "trip_m", notices),
        _counter(test, ride, progress, "odometer", "odometer_m", notices),
        _samples(test, ride, progress, notices),
    ]
    return [item for item in found if item is not None]


#: The column of an entry that each of these reads.
_READS: Final[dict[str, str]] = {"gps": "gps_m", "trip": "trip_m", "odometer": "odometer_m"}


def _last_read_s(test: RangeTest, ride: RideWindow, method: str) -> float:
    """When an instrument was last read within the ride [s]; what a log holds was read to its end."""
    time = test.readings(_READS[method])[0] if method in _READS else np.zeros(0)
    inside = time[time <= ride.end_s]
    logged = test.column("time_s") if method in ("samples", "gps") else None
    if logged is not None and (method == "samples" or test.column("latitude_deg") is not None):
        return min(float(logged[-1]), ride.end_s)
    return float(inside[-1]) if len(inside) else ride.start_s


def _read_last(
    test: RangeTest, ride: RideWindow, found: list[Estimate]
) -> tuple[str, Line, float] | None:
    """The instrument that was read last, its line and until when; None where all were read as late."""
    if len(found) < 2:
        return None
    until = [_last_read_s(test, ride, item.method) for item in found]
    last = int(np.argmax(until))
    if until[last] - min(until) < 1.0:
        return None
    return found[last].method, found[last].line, until[last]


def _route(test: RangeTest, ride: RideWindow, driving: Line) -> Estimate | None:
    """The planned route's length, for a ride that says it was ridden to its end."""
    reason = test.sheet.ending.reason if test.sheet.ending else None
    if test.route_gpx is None or reason != "home" or driving.span <= 0:
        return None
    length = sum(
        float(step_lengths_m(part.latitude_deg, part.longitude_deg).sum())
        for part in read_gpx(test.route_gpx)
        if part.time_s is None
    )
    if length <= LEAST_DISTANCE_M:
        return None
    line = Line(time_s=driving.time_s, total=driving.total * (length / driving.span))
    return estimate(
        "route", line, "m", gains={}, extra_std=ROUTE_STD * length, remarks=(remark("route"),)
    )


def limp_distance_m(test: RangeTest, ride: RideWindow) -> float:
    """Distance ridden after the ride proper, by the first instrument that shows it [m].

    Parameters
    ----------
    test : as recorded
    ride : the window
    """
    if ride.end_s >= ride.last_s:
        return 0.0
    for name in ("trip_m", "odometer_m", "gps_m"):
        time, values = test.readings(name)
        if len(time) > 1 and time[-1] > ride.end_s:
            total, _ = counted_on(values)
            line = Line(time_s=time, total=total)
            return max(line.between(ride.end_s, ride.last_s), 0.0)
    found = _samples_line(test)
    return 0.0 if found is None else max(found[0].between(ride.end_s, ride.last_s), 0.0)


def _finish(
    method: DistanceMethod,
    line: Line,
    ride: RideWindow,
    driving: Line,
    gain: tuple[InstrumentName, float],
    *,
    extra_std: float = 0.0,
    remarks: tuple[Remark, ...] = (),
) -> Estimate | None:
    line = line.clipped(ride.start_s, ride.end_s)
    if line.span <= 0:
        return None
    # What nobody read is filled in by the time that it moved: nothing is added at rest.
    whole, filled, filled_std = completed(line, ride.start_s, ride.end_s, driving)
    if filled > 0.005 * whole.span:
        remarks = (*remarks, remark("covers", percent=100 * line.span / whole.span))
    else:
        whole, filled, filled_std = line, 0.0, 0.0
    return estimate(
        method,
        whole,
        "m",
        gains=dict([gain]),
        extra_std=extra_std,
        filled=filled,
        filled_std=filled_std,
        remarks=remarks,
    )


def _counter(
    test: RangeTest,
    ride: RideWindow,
    driving: Line,
    method: Literal["gps", "trip", "odometer"],
    name: str,
    notices: list[Notice],
) -> Estimate | None:
    """The difference of a counter that the rider read."""
    time, values = test.readings(name)
    if len(time) == 0:
        return None
    remarks: tuple[Remark, ...] = ()
    unwritten_zero = name != "odometer_m" and time[0] > ride.start_s and values[0] > 0
    # Riders reset the trip meter at the start and do not write the 0 down. It is believed
    # when the first piece was then ridden about as fast as the rest.
    if unwritten_zero and _zero_at_start(time, values, ride):
        time = np.concatenate([[ride.start_s], time])
        values = np.concatenate([[0.0], values])
        remarks = (remark("zero_at_start"),)
    if len(time) < 2:
        return None
    total, resets = counted_on(values)
    if resets:
        notices.append(Notice("counter_reset", reading=label_of(name), resets=resets))
    step_m, step_std = display_step_m(values), 0.0
    if step_m is not None:
        # What a tracker shows is rounded by its software; a trip meter and an odometer truncate.
        added, step_std = left_away_m(values, step_m, truncates=method != "gps")
        total = total + added
        if added[-1] > 0:
            remarks = (*remarks, remark("display_step", half_step_m=step_m / 2))
    line = Line(time_s=time, total=total)
    gain = (method, accuracy(test, method).relative_std)
    return _finish(method, line, ride, driving, gain, extra_std=step_std, remarks=remarks)


def _zero_at_start(time: FloatArray, values: FloatArray, ride: RideWindow) -> bool:
    first_rate = values[0] / (time[0] - ride.start_s)
    if len(time) < 2 or time[-1] <= time[0] or values[-1] <= values[0]:
        return len(time) == 1
    rate = (values[-1] - values[0]) / (time[-1] - time[0])
    return bool(0.3 * rate <= first_rate <= 3.0 * rate)


def _samples_line(test: RangeTest) -> tuple[Line, int] | None:
    """The logger's own distance, or its speed integrated; and how often its counter was reset."""
    counted = test.log.known("distance_m")
    if counted is not None and len(counted[0]) > 1:
        time, metres = counted
        total, resets = counted_on(metres)
        return Line(time_s=time, total=total), resets
    logged = test.log.known("speed_mps")
    if logged is None or len(logged[0]) < 2:
        return None
    time, speed = logged[0], np.maximum(logged[1], 0.0)
    return Line(time_s=time, total=running(speed, np.diff(time))), 0


def _samples(
    test: RangeTest, ride: RideWindow, driving: Line, notices: list[Notice]
) -> Estimate | None:
    found = _samples_line(test)
    if found is None:
        return None
    line, resets = found
    sources = test.sheet.instruments.samples if test.sheet.instruments else None
    source = sources.distance if sources is not None and sources.distance is not None else "trip"
    instruments: dict[str, InstrumentName] = {"trip": "trip", "gps": "gps", "laps": "lap"}
    gain = (instruments[source], accuracy(test, instruments[source]).relative_std)
    from_speed = test.column("distance_m") is None
    extra_std = 0.0
    remarks = (remark("speed_integrated"),) if from_speed else ()
    if from_speed:
        inside = line.clipped(ride.start_s, ride.end_s)
        steps = np.diff(inside.time_s)
        holes = steps > gap_threshold_s(inside.time_s)
        extra_std = FILL_STD * float(np.diff(inside.total)[holes].sum())
    elif resets:
        notices.append(Notice("counter_reset", reading="logger's distance", resets=resets))
    return _finish("samples", line, ride, driving, gain, extra_std=extra_std, remarks=remarks)


def _gps(
    test: RangeTest, ride: RideWindow, driving: Line, notices: list[Notice]
) -> Estimate | None:
    """The track's length on the ellipsoid; failing that, what a tracker showed."""
    fixes = _fixes_of_samples(test) or _fixes_of_route(test)
    if fixes is None:
        return _counter(test, ride, driving, "gps", "gps_m", notices)
    time, latitude, longitude, joined = fixes
    lengths = step_lengths_m(latitude, longitude)
    steps_s = np.diff(time)
    logged = test.log.known("speed_mps")
    if logged is not None and len(logged[0]):
        here = np.interp(time, logged[0], logged[1])
        moving = (here[1:] + here[:-1]) / 2 >= STANDING_MPS
    else:
        with np.errstate(divide="ignore", invalid="ignore"):
            moving = np.where(steps_s > 0, lengths / steps_s, 0.0) >= STANDING_MPS
    holes = steps_s > gap_threshold_s(time)
    # A hole may hold slow miles that look like standing; its straight line always counts.
    lengths = np.where((moving | holes) & joined, lengths, 0.0)
    bends, bends_std_m = _bends(fixes, lengths, (moving & ~holes) & joined)
    lengths = lengths + bends
    line = Line(time_s=time, total=np.concatenate([[0.0], np.cumsum(lengths)]))
    inside = holes & joined & (time[:-1] < ride.end_s)
    hole_m = float(lengths[inside].sum())
    remarks: list[Remark] = []
    if bends.sum() > LEAST_DISTANCE_M:
        remarks.append(remark("bends", length_m=float(bends.sum())))
    if hole_m > 0:
        remarks.append(remark("track_holes", holes=int(inside.sum()), length_m=hole_m))
    if not joined.all():
        remarks.append(remark("track_breaks"))
    gain: tuple[InstrumentName, float] = ("gps", accuracy(test, "gps").relative_std)
    extra_std = float(np.hypot(TRACK_HOLE_STD * hole_m, bends_std_m))
    return _finish("gps", line, ride, driving, gain, extra_std=extra_std, remarks=tuple(remarks))


def _bends(
    fixes: Fixes, lengths_m: FloatArray, counts: NDArray[np.bool_]
) -> tuple[FloatArray, float]:
    """What is added to each step for the bends it cuts [m], and its u; nothing on a track of close places."""
    time, latitude, longitude, _ = fixes
    steps_s = np.diff(time)[counts]
    usual_s = float(np.median(steps_s)) if len(steps_s) else 0.0
    if usual_s < FAR_APART_S:
        return np.zeros(len(counts)), 0.0
    bends = bends_m(latitude, longitude, counts)
    unseen = UNSEEN_STD * min(usual_s / UNSEEN_AT_S, 1.0) * float(lengths_m[counts].sum())
    return bends, float(np.hypot(BENDS_STD * bends.sum(), unseen))


def _fixes_of_samples(test: RangeTest) -> Fixes | None:
    """Time [s], latitude and longitude [deg] of fixes about a second or more apart."""
    logged = test.log.known("latitude_deg", "longitude_deg")
    if logged is None or len(logged[0]) < 2:
        return None
    time, latitude, longitude = logged
    keep = _thinned(time)
    return time[keep], latitude[keep], longitude[keep], np.ones(len(keep) - 1, dtype=bool)


def _thinned(time: FloatArray) -> NDArray[np.int64]:
    """Indices of fixes at least LEAST_FIX_STEP_S apart, first and last among them."""
    if float(np.median(np.diff(time))) >= LEAST_FIX_STEP_S:
        return np.arange(len(time))
    slots = np.floor((time - time[0]) / 1.0)
    first_of_slot = np.flatnonzero(np.diff(slots, prepend=-1.0) > 0)
    return np.unique(np.concatenate([first_of_slot, [len(time) - 1]]))


def _fixes_of_route(test: RangeTest) -> Fixes | None:
    """Fixes of a ridden route.gpx, that is, one with times; segments are not joined."""
    if test.route_gpx is None or test.started_at is None:
        return None
    segments = [part for part in read_gpx(test.route_gpx) if part.time_s is not None]
    if not segments:
        return None
    origin = test.started_at.timestamp() if test.started_at.tzinfo is not None else None
    if origin is None:
        return None
    time = np.concatenate([part.time_s for part in segments if part.time_s is not None]) - origin
    latitude = np.concatenate([part.latitude_deg for part in segments])
    longitude = np.concatenate([part.longitude_deg for part in segments])
    joined = np.ones(len(time) - 1, dtype=bool)
    breaks = np.cumsum([len(part.latitude_deg) for part in segments])[:-1] - 1
    joined[breaks] = False
    if len(time) < 2 or (np.diff(time) < 0).any():
        return None
    return time, latitude, longitude, joined
