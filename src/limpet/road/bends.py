"""What straight lines between the places of a track leave out of its bends."""

from __future__ import annotations

from typing import Final

import numpy as np
from numpy.typing import NDArray

from limpet.road.geodesic import step_lengths_m

FloatArray = NDArray[np.float64]

#: Chords shorter than this are no longer than their places are uncertain, and turn by jitter [m] (assumption).
LEAST_CHORD_M: Final = 30.0
#: Between true and reckoned loss on seeded roads of corners, arcs and wandering headings lies a factor of 0.4
#: to 1.6: its relative u.
BENDS_STD: Final = 0.4
#: Bends that come and go between two places are not seen in the angles: relative u of a way of chords half a
#: minute long, less in proportion for shorter ones (assumption).
UNSEEN_STD: Final = 0.015
UNSEEN_AT_S: Final = 30.0


def bends_m(
    latitude_deg: FloatArray, longitude_deg: FloatArray, counts: NDArray[np.bool_]
) -> FloatArray:
    """What is to be added to each chord for the bends that it cuts.

    Parameters
    ----------
    latitude_deg, longitude_deg : of the places [deg], shape (n,)
    counts : which chords are part of the way and have their neighbours in it, shape (n − 1,)

    Returns
    -------
    m, shape (n − 1,)

    Notes
    -----
    A track of every other place is shorter again. On roads of corners and of wandering headings the loss grows
    with the chord, so that what the halving loses is what the track itself has lost; on one long arc it is a
    third of that (Richardson's extrapolation of first and of second order).
    """
    lost = np.zeros(len(counts))
    if len(counts) < 2:
        return lost
    chords = step_lengths_m(latitude_deg, longitude_deg)
    over_two = np.zeros(len(chords) - 1)
    for first in (0, 1):
        lengths = step_lengths_m(latitude_deg[first::2], longitude_deg[first::2])
        over_two[first::2] = lengths[: len(over_two[first::2])]
    long = counts & (chords >= LEAST_CHORD_M)
    both = long[:-1] & long[1:]
    # Each corner is seen by one of the two halved tracks, so it counts by half, on both of its chords.
    corner = np.where(both, np.maximum(chords[:-1] + chords[1:] - over_two, 0.0), 0.0) / 2
    lost[:-1] += corner / 2
    lost[1:] += corner / 2
    return lost
