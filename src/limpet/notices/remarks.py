"""What a method has to remark about itself: codes with values, and the sentences that they become.

The `note` of a method and the `reason` of a promise in the JSON are made here; nothing asks what they say.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final, Literal, get_args

RemarkCode = Literal[
    "samples", "filled_in", "covers", "meter", "volts_of_samples", "loaded_volts", "resting_volts", "route",
    "zero_at_start", "speed_integrated", "track_holes", "track_breaks", "pieces", "laps", "laps_and_finer",
    "laps_and_half", "laps_and_pace", "label", "gauge", "straight_line", "through_curves",
    "own_curve", "one_run", "several_runs", "display_step", "bends",
]  # fmt: skip

#: Code → sentence, or half of one where another always follows.
_SENTENCES: Final[dict[RemarkCode, str]] = {
    "samples": "{count:,} samples.",
    "filled_in": "{energy_wh:.1f} Wh were filled in.",
    "covers": "The readings cover {percent:.0f}% of the ride; the rest is filled in.",
    "meter": "The meter's {what}, from the {source}.",
    "volts_of_samples": "Volts from the samples.",
    "loaded_volts": "{count} loaded voltages.",
    "resting_volts": "Resting voltages less the sag.",
    "route": "As the route was planned.",
    "zero_at_start": "Taken as 0 at the start.",
    "speed_integrated": "Speed integrated.",
    "track_holes": "{holes} hole(s) in the track, {length_m:.0f} m bridged by straight lines.",
    "track_breaks": "Breaks between track segments are not counted.",
    "display_step": "Half a step of the display, {half_step_m:.0f} m, is added: it shows no part of a step.",
    "bends": "The track's places lie far apart: {length_m:.0f} m of bends between them are added.",
    "pieces": "What was pushed or missed is reckoned in.",
    "laps": "{laps:g} laps of {length_m:g} m.",
    "laps_and_finer": "{laps:g} laps of {length_m:g} m, the rest by the wheel or the track.",
    "laps_and_half": "{laps:g} laps of {length_m:g} m and about half of the next.",
    "laps_and_pace": "{laps:g} laps of {length_m:g} m, the last by the pace of those before.",
    "label": "The label, full to cut-off; packs often give 0 to 13% more (common practice).",
    "gauge": "What the gauge fell by, as such gauges go.",
    "straight_line": "{from_v:.1f} V to {to_v:.1f} V at rest, on a straight line from full to cut-off.",
    "through_curves": "{from_v:.1f} V to {to_v:.1f} V at rest through the {chemistry} curves, "
    "{percent:.0f}% lost as heat in the pack.",
    "own_curve": "The curve is this pack's own, {source}.",
    "one_run": "one run; {percent:.0f}% from run to run on such days is assumed",
    "several_runs": "{percent:.0f}% from run to run in {runs} earlier runs",
}


@dataclass(frozen=True, slots=True)
class Remark:
    """A code of `RemarkCode` and the values of its sentence, by name."""

    code: RemarkCode
    values: tuple[tuple[str, float | str], ...] = ()

    @property
    def said(self) -> str:
        """Its sentence."""
        return _SENTENCES[self.code].format(**dict(self.values))


def remark(code: RemarkCode, **values: float | str) -> Remark:
    """A remark with its values."""
    return Remark(code, tuple(values.items()))


def said(remarks: Sequence[Remark]) -> str:
    """Several remarks one after the other; empty for none."""
    return " ".join(item.said for item in remarks)


def remark_codes() -> tuple[RemarkCode, ...]:
    """Every code there is."""
    return get_args(RemarkCode)
