"""The tideline, thinned to what a screen can show."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.checks import all_questions
from limpet.evidence.model import EntryKind, RangeTest
from limpet.figures.figures import Figures
from limpet.figures.sagging import Sag, sag_of
from limpet.read.charges import charges_of
from limpet.read.distance import limp_distance_m

FloatArray = NDArray[np.float64]

#: Points of a tideline: more than a wide screen has pixels is waste.
STRIP_POINTS = 240
#: Points of each of several packs' tides.
TIDE_POINTS = 60
#: A crawl shorter than this is none [m].
LEAST_LIMP_M = 20.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Mark:
    """An entry on the tideline."""

    distance_m: float
    time_s: float
    kind: EntryKind
    energy_left: float | None
    voltage_v: float | None
    #: What an event was, where it was by name, what the gauge showed, and whether it is asked about.
    what: str | None = None
    place: str | None = None
    gauge: float | None = None
    questioned: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Tide:
    """One of several packs that were used one after another: its own energy left [-] over distance [m]."""

    pack: int
    distance_m: tuple[float, ...]
    energy_left: tuple[float, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Strip:
    """The tideline of a test: energy left [-] over distance [m], both of shape (n,).

    `cutoff_m` is where it ends, low, value and high; `reserve` the share kept back; `fade_m` where the
    speed held began to fall; `limp_to_m` how far it crawled after its end; `tides` the packs that were
    used one after another. A test whose energy is not known has an empty line.
    """

    distance_m: tuple[float, ...]
    energy_left: tuple[float, ...]
    marks: tuple[Mark, ...]
    ridden_m: float | None
    cutoff_m: tuple[float, float, float] | None
    reserve: float
    measured: bool
    fade_m: float | None = None
    limp_to_m: float | None = None
    tides: tuple[Tide, ...] = ()


def _energy_left(test: RangeTest, figures: Figures) -> Callable[[FloatArray], FloatArray] | None:
    """Energy left [-] as a function of time [s]; None when the energy is not known."""
    line, usable = figures.energy_line, figures.pack.usable_energy_wh
    used = figures.energy_used_fraction
    if line is None or usable is None or used is None or line.span == 0:
        return None
    # A ride that began part empty starts below the full mark.
    began = figures.started_fraction
    start = min(began.value, 1.0) if began is not None else 1.0
    total_wh = figures.energy.value if figures.energy is not None else line.span

    charged = _charged(test, figures)

    def left(time_s: FloatArray) -> FloatArray:
        share = line.at(time_s) / line.span * total_wh / usable.value
        return np.clip(start - share + charged(time_s), 0.0, 1.0)

    return left


def _charged(test: RangeTest, figures: Figures) -> Callable[[FloatArray], FloatArray]:
    """What had been charged on the way by a time, as a share of the usable energy [-]."""
    charges, usable = charges_of(test, figures.ride), figures.pack.usable_energy_wh
    if charges is None or usable is None:
        return np.zeros_like
    factor = next((item.value for item in figures.inputs if item.name == "charged"), 1.0)
    shares = factor * charges.energy_wh / usable.value
    return lambda time_s: ((time_s[:, None] >= charges.time_s - 1e-6) * shares).sum(axis=1)


def strip_of(test: RangeTest, figures: Figures) -> Strip:
    """The tideline of a test.

    Parameters
    ----------
    test : as recorded
    figures : its results

    Returns
    -------
    energy left [-] over metres, with what was noted on the way
    """
    track = figures.distance_line
    left = _energy_left(test, figures)
    distance: FloatArray = np.zeros(0)
    levels: FloatArray = np.zeros(0)
    marks: list[Mark] = []
    asked = {
        entry_time
        for notice in all_questions(test.sheet.pack, test.sheet.packs_used or 1, test.entries)
        if isinstance(entry_time := notice.values.get("time_s"), float)
    }
    if track is not None:
        if left is not None:
            time = _even_times(track.time_s, track.total, figures.ride.start_s, figures.ride.end_s)
            distance, levels = track.at(time), left(time)
        for entry in test.entries:
            at = np.array([min(entry.time_s, figures.ride.end_s)])
            volts = (
                entry.voltage_rest_v if entry.voltage_rest_v is not None else entry.voltage_load_v
            )
            marks.append(
                Mark(
                    distance_m=float(track.at(at)[0]),
                    time_s=entry.time_s,
                    kind=entry.kind,
                    energy_left=float(left(at)[0]) if left is not None else None,
                    voltage_v=volts,
                    what=entry.what,
                    place=entry.place,
                    gauge=entry.gauge,
                    questioned=entry.time_s in asked,
                )
            )
    cutoff = figures.range_to_cutoff
    # What was charged on the way carries the ride so much further than one pack.
    further = 1 + float(_charged(test, figures)(np.array([figures.ride.end_s]))[0])
    return Strip(
        distance_m=tuple(distance.tolist()),
        energy_left=tuple(levels.tolist()),
        marks=tuple(marks),
        ridden_m=figures.distance.value if figures.distance is not None else None,
        cutoff_m=(cutoff.low * further, cutoff.value * further, cutoff.high * further)
        if cutoff is not None
        else None,
        reserve=figures.reserve,
        measured=figures.range_measured,
        fade_m=figures.fade.onset_distance_m if figures.fade is not None else None,
        limp_to_m=_limp_to_m(test, figures),
        tides=_tides(figures),
    )


def sagging(test: RangeTest, figures: Figures) -> Sag | None:
    """Volts and speed over what is left in the pack; None where they do not tell.

    Parameters
    ----------
    test : as recorded
    figures : its results
    """
    return sag_of(test, figures.ride, _energy_left(test, figures))


def _limp_to_m(test: RangeTest, figures: Figures) -> float | None:
    """Where the ride came to after its end [m]; None where it stood."""
    track, limp = figures.distance_line, limp_distance_m(test, figures.ride)
    if track is None or limp < LEAST_LIMP_M:
        return None
    return float(track.at(np.array([figures.ride.end_s]))[0]) + limp


def _tides(figures: Figures) -> tuple[Tide, ...]:
    """Each pack's own energy left; nothing where one was used, or what they hold is not known.

    Notes
    -----
    All packs of a ride are taken as of one kind, as everywhere: each holds its part of the usable energy.
    """
    track, line, usable = figures.distance_line, figures.energy_line, figures.pack.usable_energy_wh
    packs = figures.ride.packs
    if track is None or line is None or usable is None or len(packs) < 2 or line.span <= 0:
        return ()
    total_wh = figures.energy.value if figures.energy is not None else line.span
    one_wh = usable.value / len(packs)
    began = figures.started_fraction
    found = []
    for number, (begin, end) in enumerate(packs):
        time = np.linspace(begin, end, TIDE_POINTS)
        drawn = (line.at(time) - line.at(np.array([begin]))[0]) / line.span * total_wh
        start = min(began.value, 1.0) if number == 0 and began is not None else 1.0
        found.append(
            Tide(
                pack=number + 1,
                distance_m=tuple(track.at(time).tolist()),
                energy_left=tuple(np.clip(start - drawn / one_wh, 0.0, 1.0).tolist()),
            )
        )
    return tuple(found)


def _even_times(time: FloatArray, metres: FloatArray, start_s: float, end_s: float) -> FloatArray:
    """Times at even steps of distance, and the readings themselves where they are few."""
    even = np.interp(np.linspace(metres[0], metres[-1], STRIP_POINTS), metres, time)
    if len(time) < STRIP_POINTS:
        even = np.union1d(even, time)
    return even[(even >= start_s) & (even <= end_s)]
