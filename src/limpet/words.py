"""Words that stand in several places: questions, methods, inputs, what is said for safety.

The page reads them from `web/src/api/core.json`.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from limpet.units import Kind

#: The eight questions that a test may answer.
QUESTIONS: Final = {
    "floor": "What is the least I can count on?",
    "everyday": "How far on my usual mix of roads?",
    "economy": "How far at most, ridden gently?",
    "claim": "Does the maker’s figure hold?",
    "compare": "Which of two uses less?",
    "ageing": "How much has the pack lost?",
    "temperature": "How much do winter and summer change it?",
    "commute": "Will this pack do the trip?",
}

#: Lists to choose from, in the order in which a form shows them.
CHOICES: Final[dict[str, dict[str, str]]] = {
    "purpose": QUESTIONS,
    "vehicle_kind": {
        "kick_scooter": "Kick scooter",
        "bicycle": "Bicycle",
        "trike": "Trike",
        "moped": "Moped",
        "motorcycle": "Motorcycle",
        "skateboard": "Board",
        "fast_bicycle": "Fast bicycle",
        "light_motorcycle": "Light motorcycle",
        "self_balancing": "Self-balancing",
        "conversion": "Conversion",
        "other": "Other",
    },
    "chemistry": {
        "nmc": "NMC (layered oxide)",
        "nca": "NCA (layered oxide)",
        "lfp": "LFP (iron phosphate)",
        "lmo": "LMO (manganese)",
        "lead_acid_agm": "Lead-acid, AGM",
        "lead_acid_flooded": "Lead-acid, flooded",
    },
    "end_reason": {
        "home": "Finished the route",
        "reserve": "Down to the reserve",
        "cutoff": "Drive cut off",
        "protect": "Protection tripped",
        "speed_floor": "Too slow to go on",
        "aborted": "Gave up",
    },
    "surface": {
        "smooth_paved": "Smooth paving",
        "rough_paved": "Rough paving",
        "wet_paved": "Wet paving",
        "mixed": "Mixed",
        "gravel": "Gravel",
        "dirt": "Dirt",
        "grass": "Grass",
    },
    "speed_policy": {
        "fixed": "A steady speed",
        "with_traffic": "In traffic",
        "gentle": "Gently",
        "flat_out": "Flat out",
    },
    "end_rule": {
        "route_end": "At the end of the route",
        "gauge_reserve": "At the reserve, by the gauge",
        "voltage_reserve": "At the reserve, by volts",
        "speed_floor": "When it is too slow",
        "cutoff": "When the drive cuts off",
    },
    "propulsion": {
        "throttle_only": "Motor alone",
        "assist": "Pedalling with assistance",
        "mixed": "Some of both",
    },
    "packs_use": {
        "single": "One pack",
        "in_sequence": "One after the other",
        "in_parallel": "Side by side",
        "spare": "One in use, the others in the bag",
    },
    "event": {
        "walked": "Walked or pushed",
        "mode": "Changed the mode",
        "pedalled": "Pedalled a stretch",
        "wind": "The wind changed",
        "rain": "Rain",
        "warning": "A warning light",
        "power_cut": "Power cut",
        "tilt_back": "Tilt-back",
        "overheated": "Overheated",
        "beeping": "It beeps",
        "speed_step": "It cut its speed",
        "puncture": "Puncture",
        "tracker_off": "The tracker was off",
        "charged": "Charged on the way",
        "overnight": "Paused overnight",
        "fall": "A fall",
        "other": "Something else",
    },
    "gauge_kind": {"percent": "Percent", "bars": "Bars", "dots": "Dots"},
    "distance_source": {"trip": "Trip meter", "gps": "GPS", "laps": "Laps"},
}

#: How a method is labelled where methods stand side by side, and what a sentence calls it.
METHODS: Final = {
    "sampled": ("volts × amps, sampled", "the samples"),
    "energy_counter": ("meter’s watt-hours", "the meter’s watt-hours"),
    "charge_counter": ("amp-hours × volts", "the amp-hours times volts"),
    "rest_voltage": ("resting volts, curve", "the resting volts"),
    "linear_voltage": ("resting volts, straight line", "the resting volts on a straight line"),
    "gauge": ("the gauge", "the gauge"),
    "rated": ("the label", "the label"),
    "wall": ("meter at the wall", "the meter at the wall"),
    "laps": ("laps × length", "the laps"),
    "gps": ("track", "the track"),
    "trip": ("trip meter", "the trip meter"),
    "odometer": ("odometer", "the odometer"),
    "samples": ("logger’s distance", "the logger’s distance"),
    "route": ("the planned route", "the planned route"),
}

#: What is likely wrong with a method that disagrees with a surer one, and what to look at.
CULPRITS: Final = {
    "sampled": "Look at the logger’s current scale and its sign.",
    "energy_counter": "Was the meter reset, or does it count what flows back?",
    "charge_counter": "Was the meter reset, and is its current scale right?",
    "rest_voltage": "Had the pack rested, was it full at the start, and are its cells and chemistry right?",
    "rated": "Is the label right, and was the pack full?",
    "wall": "Was the pack full before the ride, and charged until full after it?",
    "laps": "Were all laps counted, and was the lap measured along the line that is ridden?",
    "gps": "Did the track lose its fix, or start late?",
    "trip": "Check its scale over a measured stretch, and whether it was reset on the way.",
    "odometer": "Check its scale over a measured stretch, and that both readings are of this ride.",
    "samples": "Did the logger run the whole way, and is its wheel size right?",
}

#: What the inputs of a forecast are called, and of what kind they are: None for a bare number, and
#: "percent" for a share that is said in percent. A factor stands for a span of its own.
INPUTS: Final[dict[str, tuple[str, Kind | str | None]]] = {
    "target_speed_mps": ("speed", "speed"),
    "wind_mps": ("wind", "speed"),
    "temp_c": ("cold", "temperature"),
    "vehicle_mass_kg": ("vehicle mass", "mass"),
    "rider_mass_kg": ("rider", "mass"),
    "gear_kg": ("load", "mass"),
    "cda_m2": ("air drag", "area"),
    "crr": ("rolling resistance", None),
    "drivetrain_efficiency": ("drive efficiency", "percent"),
    "aux_w": ("auxiliary power", "power"),
    "max_power_w": ("motor power", "power"),
    "rated_energy_wh": ("the label", "energy"),
    "retained_fraction": ("pack age", "percent"),
    "start_energy_fraction": ("charge at the start", "percent"),
    "resistance_ohm": ("pack resistance", "resistance"),
    "known_consumption_wh_per_km": ("known consumption", "consumption"),
    "wind_from_deg": ("wind direction", "angle"),
    "riding": ("riding", None),
    "speed_cv": ("speed that varied", None),
    "surface": ("surface", None),
    "pack_warming": ("pack warmth", None),
    "peukert": ("Peukert’s exponent", None),
    "tyre_kpa": ("tyre pressure", "pressure"),
    "climb_factor": ("climb", None),
    "stops_factor": ("stops", None),
}

#: What the parts of a result's budget are called (`limpet.figures.budget`).
PARTS: Final = {
    "distance_read": "the reading of the distance",
    "energy_read": "the reading of the energy",
    "readings": "each reading’s own error",
    "start": "how full it began",
    "curve": "the cells’ curve",
    "label": "the label",
    "retained": "the pack’s age",
    "rated_ah": "the pack’s size",
    "cold": "the cold",
    "peukert": "Peukert’s exponent",
    "consumption": "the consumption",
    "resistance_ohm": "the pack’s resistance",
    "low_charge_resistance": "resistance near empty",
    "lag": "volts not yet settled",
    "end_current": "the current at the end",
    "pull": "amps that were not read",
    "cutoff": "the cut-off",
    "gauge": "what the gauge means",
    "way": "the distance between entries",
    "way_ahead": "the distance to go",
    "brought_to_25": "adjusting it to 25 °C and a low rate",
    "height": "the height of the end",
    "unseen_age": "the label’s unknown age",
    "charged": "the charge on the way",
    "voltage": "the voltmeter",
    "current": "the ammeter",
    "charge": "the amp-hour meter",
    "energy": "the watt-hour meter",
    "trip": "the trip meter",
    "gps": "the track",
    "odometer": "the odometer",
    "lap": "the lap’s length",
    "wall": "the charger’s share",
}

#: How many tests a source names, and how long it may get.
_NAMED, _LONGEST = 3, 120


#: Conditions that tests are compared beside.
FACTOR_WORDS: Final = {
    "speed": "speed",
    "wind": "wind",
    "load": "load",
    "temperature": "temperature",
    "climb": "climb",
    "stops": "stops",
    "tyres": "tyre pressure",
    "surface": "surface",
    "pedalling": "help from legs",
}


def named_tests(titles: Sequence[str], count: int | None) -> str:
    """Tests as a source names them: "5 tests: a, b, c and 2 more"; without titles only how many.

    Parameters
    ----------
    titles : of the tests, all or none of them
    count : how many there are
    """
    count = len(titles) if count is None else count
    many = f"{count} test{'' if count == 1 else 's'}"
    if not titles:
        return many
    more = f" and {len(titles) - _NAMED} more" if len(titles) > _NAMED else ""
    return f"{many}: {', '.join(titles[:_NAMED])}{more}"[:_LONGEST]


#: What is done before every test, whatever its question (handbook section 2).
PREPARATION: Final = (
    "Charge fully and let the pack rest",
    "Note the resting voltage",
    "Check the tyre pressures",
    "Weigh rider and gear",
    "Reset the trip meter, note the odometer",
    "Start the tracker",
    "Note clock, temperature and wind",
    "Lights, helmet, water, a way home",
)

#: What is said for safety (handbook section 16), each sentence once.
SAFETY: Final = {
    "law": "Ride under local road law and the maker’s limits.",
    "standing": "Log only when you stand.",
    "hours": "Heat, cold, rain, dusk: a test takes hours. Have water and a way home.",
    "fading": "A fading pack in traffic is a hazard: plan the end away from fast roads.",
    "draining": "Draining to nothing wears the pack. Never below the cells’ floor, never with the BMS "
    "bypassed.",
    "failing": "Stop if a pack is swollen, smells, hisses or grows hot.",
    "building": "Building a pack is work for a qualified person: cells that match, a BMS with its "
    "limits set, fuses, and packs joined only at equal voltage.",
}
