"""What a result has to say in words: what was taken, what is missing, what to record next time."""

from __future__ import annotations

import numpy as np

from limpet.assumptions import INSTRUMENT_PCT, RESERVE, SETTLE_S, assumed_otherwise
from limpet.evidence.model import RangeTest
from limpet.figures.drawn import GUESS_BELOW, DrawnFigures
from limpet.figures.parts import InputResult
from limpet.notices import Notice
from limpet.pack import voltage_limits
from limpet.quantity import Quantity
from limpet.read.accuracy import accuracy
from limpet.read.charges import was_charged
from limpet.read.distance import limp_distance_m
from limpet.read.energy import EnergyFindings
from limpet.read.heights import LEAST_HEIGHT_M, Heights, climb_wh
from limpet.read.line import Estimate
from limpet.read.readings import Reading
from limpet.read.window import RideWindow
from limpet.state.priors import Priors
from limpet.state.remaining import Left
from limpet.words import named_tests

#: Limp distance worth a sentence [m].
LEAST_LIMP_M = 20.0
#: A pack that began with less than this of its usable energy began part empty [-].
PART_EMPTY = 0.95
#: Volts that leave the share used this uncertain, relative, do not tell it [-].
VOLTS_TELL = 0.10


def about_energy(evidence: EnergyFindings, energy: Quantity | None) -> list[Notice]:
    """Says so where no meter told the energy."""
    if energy is None or evidence.charge is not None or evidence.counted is not None:
        return []
    return [Notice("energy_from_label", share=(energy.high - energy.low) / 2 / energy.value)]


def about_start(
    test: RangeTest, ride: RideWindow, left: Left, found: list[Reading]
) -> list[Notice]:
    """What was taken of the pack's start."""
    began = next((item for item in found if item.at_start_of == 0), None)
    if began is None:
        return [Notice("assumed_full")]
    share = float(np.median(left.value("start_1")))
    if began.kind == "rest" and share < PART_EMPTY:
        return [Notice("began_part_empty", voltage_v=began.value, share=share)]
    return []


def about_label(test: RangeTest) -> list[Notice]:
    """What was taken of a pack that is not described."""
    pack = test.sheet.pack
    if not pack.taken:
        return []
    notices = [
        Notice("pack_taken", series=pack.series, chemistry=pack.chemistry, rated_ah=pack.rated_ah)
    ]
    return notices if pack.knows_energy else [*notices, Notice("pack_unlabelled")]


def about_lessons(inputs: tuple[InputResult, ...], priors: Priors) -> list[Notice]:
    """What earlier tests taught this one, and which of its readings were set right by them."""
    listed = {item.name for item in inputs}
    notices, words, tests = [], [], dict[str, None]()
    for name, found in priors.learned.items():
        if name in LEARNED_INSTRUMENTS:
            if name in listed and abs(found.value - 1) >= LEAST_SET_RIGHT:
                side = "too much" if found.value > 1 else "too little"
                share = abs(found.value - 1)
                said = named_tests(found.tests, len(found.tests))
                notices.append(
                    Notice("set_right", instrument=LEARNED_INSTRUMENTS[name], share=share, side=side, tests=said)
                )  # fmt: skip
        elif name in LEARNED_WORDS and LEARNED_WORDS[name][0] in _learned(inputs):
            words.append(LEARNED_WORDS[name][1])
            tests |= dict.fromkeys(found.tests)
    if words:
        what = " and ".join([", ".join(words[:-1]), words[-1]] if len(words) > 1 else words)
        notices.append(Notice("learned", what=what, tests=named_tests(tuple(tests), len(tests))))
    return notices


def _learned(inputs: tuple[InputResult, ...]) -> set[str]:
    return {item.name for item in inputs if item.source.startswith("learned")}


#: Instruments that earlier tests set right, and less than what is not worth a word [-].
LEARNED_INSTRUMENTS = {"trip": "trip meter", "odometer": "odometer"}
LEAST_SET_RIGHT = 0.005
#: What is learned: the input that it becomes, and what it is called.
LEARNED_WORDS = {
    "gauge_bend": ("gauge_bend", "the gauge"),
    "came_of_shown": ("came_of_shown", "what its display promises"),
    "capacity_factor": ("retained", "the pack's capacity"),
    "resistance_ohm": ("resistance_ohm", "its resistance"),
    "consumption_wh_per_m": ("consumption", "what such rides take"),
}


def about_charging(test: RangeTest, left: Left) -> list[Notice]:
    """What was made of a charge on the way."""
    added = float(left.model.ride.added_wh.sum())
    if added > 0:
        return [Notice("charged_reckoned", energy_wh=added)]
    return [Notice("charged_on_the_way")] if was_charged(test) else []


def beyond_label(drawn: DrawnFigures, evidence: EnergyFindings, left: Left) -> list[Notice]:
    """Where more was metered than such a label promises, and the ride had not ended."""
    if drawn.measured or drawn.energy_wh is None or not evidence.methods:
        return []
    state = left.model.state(left.posterior.before[:, :1])
    promised = state.usable * state.capacity_ah * left.model.ride.series * (1 - state.lost)
    share = float(np.median(drawn.energy_wh)) / max(float(promised[0]) * drawn.packs, 1e-6)
    return [Notice("more_than_label", share=share)] if share > 1 else []


def about_height(test: RangeTest, heights: Heights | None, drawn: DrawnFigures) -> list[Notice]:
    """That range is brought to the level, where the ride did not end at its start's height."""
    if heights is None or drawn.measured or abs(heights.climbed_m) < LEAST_HEIGHT_M:
        return []
    return [
        Notice(
            "height_corrected",
            height_m=abs(heights.climbed_m),
            side="above" if heights.climbed_m > 0 else "below",
            set_aside_wh=abs(climb_wh(test, heights.climbed_m)),
        )
    ]


def what_is_missing(
    test: RangeTest,
    ride: RideWindow,
    energy: Estimate | None,
    distance: Estimate | None,
    share: Quantity | None,
    measured: bool,
    capacity: Quantity | None,
) -> list[Notice]:
    """For everything that is null: what to record next time."""
    found: list[Notice] = []
    if energy is None:
        found.append(Notice("no_energy"))
    if distance is None:
        found.append(Notice("no_distance"))
    if share is None:
        found.append(Notice("no_range"))
    elif not measured and share.value < GUESS_BELOW:
        found.append(Notice("guess", share=share.value, wanted=GUESS_BELOW))
    if capacity is None:
        found.append(Notice("no_capacity"))
    limp_m = limp_distance_m(test, ride)
    if limp_m > LEAST_LIMP_M:
        found.append(Notice("limp_distance", limp_m=limp_m))
    return found


def what_volts_lack(
    test: RangeTest, left: Left, found: list[Reading], drawn: DrawnFigures, evidence: EnergyFindings
) -> list[Notice]:
    """What volts could not tell, and what would let them."""
    if drawn.measured:
        return []
    rests = [item for item in found if item.kind == "rest"]
    if not rests:
        return []
    apart = float(np.std(drawn.share) / np.median(drawn.share))
    metered = evidence.charge is not None or evidence.counted is not None
    if apart > VOLTS_TELL and not metered and test.sheet.pack.chemistry == "lfp":
        return [Notice("volts_cannot_tell", chemistry=test.sheet.pack.chemistry)]
    last = rests[-1]
    if last.settled_s is not None and last.settled_s < SETTLE_S.value:
        return [Notice("not_settled")]
    return []


def what_was_assumed(
    test: RangeTest,
    ride: RideWindow,
    energy: Estimate | None,
    distance: Estimate | None,
    reserve_assumed: bool,
) -> list[Notice]:
    """What nobody stated and was taken: accuracies, reserve, cut-off."""
    assumed = [
        f"{name} ±{INSTRUMENT_PCT[name].value:g}%"
        for item in (energy, distance)
        if item is not None
        for name, _ in item.gains
        if accuracy(test, name).assumed
    ]
    notices = []
    if assumed:
        notices.append(Notice("accuracy_assumed", assumed=", ".join(dict.fromkeys(assumed))))
    if reserve_assumed:
        notices.append(Notice("reserve_assumed", reserve=RESERVE.value))
    _, cutoff_v, cutoff_assumed = voltage_limits(test.sheet.pack)
    if cutoff_assumed:
        notices.append(Notice("cutoff_assumed", cutoff_v=cutoff_v))
    own = assumed_otherwise()
    if own:
        notices.append(Notice("own_assumptions", names=", ".join(item.label for item in own)))
    return notices
