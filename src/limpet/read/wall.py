"""Energy by the meter at the wall: what the charge after the ride took, less what the charger keeps."""

from __future__ import annotations

from math import hypot

import numpy as np

from limpet.assumptions import CHARGER
from limpet.evidence.model import RangeTest
from limpet.notices.remarks import remark
from limpet.read.accuracy import accuracy
from limpet.read.line import Estimate, Line, estimate
from limpet.read.window import RideWindow

#: What a plug-in meter may be off, relative u, and by its last digit [Wh] (assumption).
METER_STD, DIGIT_WH = 0.01, 2.0


def wall_wh(test: RangeTest) -> float | None:
    """What was read at the socket for the charge after the ride [Wh]; None where nobody did."""
    read = [entry.wall_wh for entry in test.entries if entry.wall_wh]
    return float(sum(read)) if read else None


def charger_share(test: RangeTest) -> float:
    """What a ride gets of the energy at the socket [-]: as stated or learned, or as it is assumed."""
    tools = test.sheet.instruments
    stated = None if tools is None or tools.wall is None else tools.wall.efficiency
    return CHARGER.value if stated is None else stated


def reading_std(wall_wh: float) -> float:
    """u of what a meter at the wall shows, relative."""
    return hypot(METER_STD, DIGIT_WH / wall_wh)


def wall_energy(test: RangeTest, ride: RideWindow, finest: Line | None) -> Estimate | None:
    """The energy of a ride by what it took to charge the pack again.

    Parameters
    ----------
    test : as recorded
    ride : the window
    finest : the line of distance with the most readings, along which the energy is taken to run [m]

    Returns
    -------
    None without a reading at the socket, or where the pack was not full at the start: the charge then
    holds more than the ride used

    Notes
    -----
    Energy at the socket × the charger's efficiency: stated, learned, or 0.84 to 0.92 (handbook section 4, assumption).
    """
    read = wall_wh(test)
    start = test.sheet.start
    if read is None:
        return None
    below = start is not None and (
        start.full is False or (start.energy_fraction is not None and start.energy_fraction < 0.99)
    )
    charged_on_the_way = any(
        entry.what == "charged" or entry.charged_wh or entry.charged_s for entry in test.entries
    )
    if below or charged_on_the_way:
        return None
    share = charger_share(test)
    energy = read * share
    line = finest if finest is not None and finest.span > 0 else _by_time(ride)
    line = line.clipped(ride.start_s, ride.end_s)
    if line.span <= 0:
        return None
    return estimate(
        "wall",
        Line(time_s=line.time_s, total=(line.total - line.total[0]) * energy / line.span),
        "Wh",
        # The charger's share is common to all of it, as a meter's gain is.
        gains={"wall": accuracy(test, "wall").relative_std},
        extra_std=reading_std(read) * energy,
        remarks=(remark("wall", wall_wh=read, percent=100 * share),),
    )


def _by_time(ride: RideWindow) -> Line:
    return Line(
        time_s=np.array([ride.start_s, ride.end_s]),
        total=np.array([0.0, max(ride.end_s - ride.start_s, 0.0)]),
    )
