"""What a result has to say in words: what was taken, what is missing, what to record next time."""

from __future__ import annotations

import numpy as np

from limpet.assumptions import INSTRUMENT_PCT, RESERVE, SETTLE_S, assumed_otherwise
from limpet.carry.road import LOST_OF_CLIMB
from limpet.evidence.checks import all_questions
from limpet.evidence.model import RangeTest
from limpet.figures.drawn import GUESS_BELOW
from limpet.figures.figures import Figures
from limpet.figures.findings import Findings
from limpet.figures.fitting_pack import fitting_pack
from limpet.figures.level import on_the_level
from limpet.figures.parts import InputResult
from limpet.notices import Notice
from limpet.pack import voltage_limits
from limpet.read.accuracy import accuracy
from limpet.read.charges import was_charged
from limpet.read.distance import limp_distance_m
from limpet.read.evidence import Evidence
from limpet.read.height_difference import LEAST_HEIGHT_M, climb_wh
from limpet.read.line import Estimate
from limpet.state.priors import Priors
from limpet.state.uncertain_inputs import ASSUMED_FULL, LEAST_UNSAID, UNSAID
from limpet.tell import cautions
from limpet.tell.disagreements import disagreements
from limpet.tell.happened import happened
from limpet.words import named_tests

#: Limp distance worth a sentence [m].
LEAST_LIMP_M = 20.0
#: Range on level roads is told where it differs by so much [-].
LEVEL_DIFFERS = 0.01
#: A pack that began with less than this of its usable energy began part empty [-].
PART_EMPTY = 0.95
#: Volts that leave the share used this uncertain, relative, do not tell it [-].
VOLTS_TELL = 0.10


def messages_of(found: Findings, figures: Figures) -> tuple[Notice, ...]:
    """Everything that a result has to say, cautions first, each once.

    Parameters
    ----------
    found : the test's findings
    figures : made of them
    """
    evidence, test = found.evidence, found.evidence.test
    asked = all_questions(test.sheet.pack, test.sheet.packs_used or 1, test.entries)
    consumption, reach = figures.consumption, figures.range_to_cutoff
    used, way = figures.energy_estimate, figures.distance_estimate
    told = [
        *cautions.stop_now(test),
        *_that_contradicts(found),
        *happened(
            test,
            evidence.ride,
            figures.distance_line,
            used.line if used is not None else None,
            reach.value if reach is not None else None,
        ),
        *disagreements("energy", figures.energy_methods),
        *disagreements("distance", figures.distance_methods),
        *(cautions.implausible(test, consumption.wh_per_mi) if consumption else []),
        *asked,
        *([Notice("hangs_on_question")] if asked else []),
        *evidence.messages,
        *_about_energy(evidence, figures),
        *_about_start(found),
        *(_about_height(found, figures) if reach is not None else []),
        *(_beyond_label(found) if figures.energy_used_fraction is not None else []),
        *_what_is_missing(found, figures),
        *_what_volts_lack(found),
        *_about_label(test),
        *_about_charging(found),
        *_about_lessons(figures.inputs, found.priors),
        *_what_was_assumed(test, (used, way), figures),
        *test.notices,
    ]
    return tuple(dict.fromkeys(told))


def _that_contradicts(found: Findings) -> list[Notice]:
    """Readings that cannot all be true, and the pack with which they could."""
    if found.remaining.posterior.birge <= 1 and found.contradiction is None:
        return []
    other = fitting_pack(found)
    against = found.contradiction
    if against is not None and found.tells_share:
        against = Notice("ridden_against_label")
    told = [against, other]
    return [notice for notice in told if notice is not None]


def _about_energy(evidence: Evidence, figures: Figures) -> list[Notice]:
    """Says so where no meter told the energy."""
    energy = figures.energy
    if energy is None or _is_metered(evidence):
        return []
    return [Notice("energy_from_label", share=(energy.high - energy.low) / 2 / energy.value)]


def _is_metered(evidence: Evidence) -> bool:
    return evidence.metered.charge is not None or evidence.metered.counted is not None


def _about_start(found: Findings) -> list[Notice]:
    """What was taken of the pack's start."""
    if not found.tells_share and found.contradiction is not None:
        return []
    began = next((item for item in found.evidence.readings if item.at_start_of == 0), None)
    if began is None:
        start = next(item for item in found.remaining.model.inputs if item.name == "start_1")
        if start.source == UNSAID:
            return [Notice("start_unsaid", least=LEAST_UNSAID)]
        return [Notice("assumed_full")] if start.source == ASSUMED_FULL else []
    share = float(np.median(found.remaining.value("start_1")))
    if began.kind == "rest" and share < PART_EMPTY:
        return [Notice("began_part_empty", voltage_v=began.value, share=share)]
    return []


def _about_label(test: RangeTest) -> list[Notice]:
    """What was taken of a pack that is not described."""
    pack = test.sheet.pack
    if not pack.taken:
        return []
    notices = [
        Notice("pack_taken", series=pack.series, chemistry=pack.chemistry, rated_ah=pack.rated_ah)
    ]
    return notices if pack.knows_energy else [*notices, Notice("pack_unlabelled")]


def _about_lessons(inputs: tuple[InputResult, ...], priors: Priors) -> list[Notice]:
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
    "came_of_shown": ("came_of_shown", "what its display means"),
    "capacity_factor": ("retained", "the pack’s capacity"),
    "resistance_ohm": ("resistance_ohm", "its resistance"),
    "consumption_wh_per_m": ("consumption", "how much such rides use"),
    "wall": ("wall", "the charger’s share"),
}


def _about_charging(found: Findings) -> list[Notice]:
    """What was made of a charge on the way."""
    added = float(found.remaining.model.ride.added_wh.sum())
    if added > 0:
        return [Notice("charged_reckoned", energy_wh=added)]
    return [Notice("charged_on_the_way")] if was_charged(found.evidence.test) else []


def _beyond_label(found: Findings) -> list[Notice]:
    """Where more was metered than such a label promises, and the ride had not ended."""
    drawn, remaining = found.drawn, found.remaining
    if drawn.measured or drawn.energy_wh is None or not found.evidence.metered.methods:
        return []
    state = remaining.model.state(remaining.posterior.before[:, :1])
    promised = state.usable * state.capacity_ah * remaining.model.ride.series * (1 - state.lost)
    share = float(np.median(drawn.energy_wh)) / max(float(promised[0]) * drawn.packs, 1e-6)
    return [Notice("more_than_label", share=share)] if share > 1 else []


def _about_height(found: Findings, figures: Figures) -> list[Notice]:
    """What range takes its hills for: back at the start's height, and level roads beside it."""
    heights, test, told = found.evidence.heights, found.evidence.test, list[Notice]()
    if (
        heights is not None
        and not found.drawn.measured
        and abs(heights.climbed_m) >= LEAST_HEIGHT_M
    ):
        told.append(
            Notice(
                "height_corrected",
                height_m=abs(heights.climbed_m),
                side="above" if heights.climbed_m > 0 else "below",
                set_aside_wh=abs(climb_wh(test, heights.climbed_m)) * (1 - LOST_OF_CLIMB / 2),
            )
        )
    level, reach = on_the_level(found, figures.climb), figures.range_to_cutoff
    if level is None or reach is None or abs(level.range_m / reach.value - 1) < LEVEL_DIFFERS:
        return told
    return [*told, Notice("level_range", range_m=level.range_m, lost_wh=level.lost_wh)]


def _what_is_missing(found: Findings, figures: Figures) -> list[Notice]:
    """For everything that is null: what to record next time."""
    share, messages = figures.energy_used_fraction, list[Notice]()
    if figures.energy is None and found.contradiction is None:
        messages.append(Notice("no_energy"))
    if figures.distance_estimate is None and not found.evidence.distances:
        messages.append(Notice("no_distance"))
    if share is None and found.contradiction is None:
        messages.append(Notice("no_range"))
    elif share is not None and not found.drawn.measured and share.value < GUESS_BELOW:
        messages.append(Notice("guess", share=share.value, wanted=GUESS_BELOW))
    if figures.pack.capacity_ah is None and found.contradiction is None:
        messages.append(Notice("no_capacity"))
    limp_m = limp_distance_m(found.evidence.test, found.evidence.ride)
    if limp_m > LEAST_LIMP_M:
        messages.append(Notice("limp_distance", limp_m=limp_m))
    return messages


def _what_volts_lack(found: Findings) -> list[Notice]:
    """What volts could not tell, and what would let them."""
    evidence, share = found.evidence, found.drawn.share
    rests = [item for item in evidence.readings if item.kind == "rest"]
    if found.drawn.measured or not rests or found.contradiction is not None:
        return []
    chemistry = evidence.test.sheet.pack.chemistry
    apart = float(np.std(share) / np.median(share))
    if apart > VOLTS_TELL and not _is_metered(evidence) and chemistry == "lfp":
        return [Notice("volts_cannot_tell", chemistry=chemistry)]
    last = rests[-1]
    if last.settled_s is not None and last.settled_s < SETTLE_S.value:
        return [Notice("not_settled")]
    return []


def _what_was_assumed(
    test: RangeTest, used: tuple[Estimate | None, ...], figures: Figures
) -> list[Notice]:
    """What nobody stated and was taken: accuracies, reserve, cut-off."""
    assumed = [
        f"{name} ±{INSTRUMENT_PCT[name].value:g}%"
        for item in used
        if item is not None
        for name, _ in item.gains
        if accuracy(test, name).assumed
    ]
    notices = []
    if assumed:
        notices.append(Notice("accuracy_assumed", assumed=", ".join(dict.fromkeys(assumed))))
    if figures.reserve_assumed and figures.energy_used_fraction is not None:
        notices.append(Notice("reserve_assumed", reserve=RESERVE.value))
    _, cutoff_v, cutoff_assumed = voltage_limits(test.sheet.pack)
    if cutoff_assumed:
        notices.append(Notice("cutoff_assumed", cutoff_v=cutoff_v))
    own = assumed_otherwise()
    if own:
        notices.append(Notice("own_assumptions", names=", ".join(item.label for item in own)))
    return notices
