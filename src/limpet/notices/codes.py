"""The closed list of notices: how much each matters, and the sentence its values go into.

A field reads `{name:kind}`; the kinds (distance, speed, consumption …) are in `limpet.notices.words`,
which writes them in the reader's units. A value's name ends in the core's unit of it.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final, Literal

#: `danger` must not be repeated, `caution` is to be weighed before riding, `advice` narrows the next
#: answer, `note` says what was done with what was given.
Severity = Literal["danger", "caution", "advice", "note"]


@dataclass(frozen=True, slots=True)
class NoticeKind:
    """A line of the list."""

    severity: Severity
    template: str


_DANGER: Final = {
    "overheated_now": "It overheated. Stand, let it cool, find out why; do not ride on while it is hot.",
    "tilts_back": "It has begun to tilt back: the pack can't hold you up much longer. Get off; walk, charge or get "
    "a lift.",
    "cell_below_floor": "Stop now next time: a cell was at {cell_v:.2f} V under load, below the "
    "{floor_v:g} V floor of {chemistry}. Charge gently, attended, and have the pack checked by a "
    "qualified person if it happens again.",
    "pack_hot": "Stop now next time: the pack reached {pack_c:temperature}. Above "
    "{limit_c:temperature} stop, let it cool in the open and do not charge it hot.",
    "cold_charge": "It was {air_c:temperature} at the end: do not charge a lithium pack below "
    "{limit_c:temperature}; let it warm up indoors first.",
    "cold_day": "At {air_c:temperature} do not charge a lithium pack: let it warm up indoors first. "
    "Keep it warm until the start; it gives more.",
    "cutoff_below_floor": "A cut-off of {cutoff_v:g} V is {cell_v:.2f} V a cell, under the "
    "{floor_v:g} V where {chemistry} is harmed. Stop before it does.",
    "storm": "Wind of {wind_mps:speed} pushes a light vehicle off its line. Choose another day.",
    "regeneration_when_full": "The way falls {fall_m:length} soon after the start: a full pack takes "
    "nothing back, and protection may trip. Start below 90%, and trust the brakes.",
    "high_current": "The way asks for {current_a:.0f} A at its worst, {rate_per_h:.1f} times the "
    "pack's amp-hours. Check that the cells and the BMS are rated for it.",
}
_CAUTION: Final = {
    "cut_its_speed": "It has cut its own speed: the pack is fading. Stay out of fast traffic, and plan where to stop.",
    "readings_contradict": "These readings can't all be true, so no range is told. What fits the others least: the {what} "
    "at {time_s:minutes}. Was it mistyped? Check the trip meter too, and the pack's cells and amp-hours.",
    "end_contradicts": "These readings can't all be true, so no range is told: the ride is said to have ended at {time_s:minutes} "
    "because the pack was empty, and the other readings leave much in it. Was it? Check the cut-off, the cells and the amp-hours.",
    "past_what_it_holds": "No range is told: by {time_s:minutes} more was used than such a pack can hold, and it still ran. Are its "
    "cells and amp-hours right, did the meter start at nought, and was it charged on the way?",
    "ridden_against_label": "What was ridden from full to the end does not fit the pack's label or what else was noted. The range is "
    "what was ridden. Was the pack full, did it end because it was empty, are its cells and amp-hours right?",
    "other_pack_fits": "With {what} the readings would agree. Is that what the pack has? Then correct it in Kit.",
    "at_a_step": "At {what} it goes no faster than {speed_mps:speed}, by its own table. Take a quiet way home.",
    "step_ahead": "From about {at_m:distance} on it may go no faster than {speed_mps:speed}: at {what}, by its own "
    "table. {chance:chance_of} that it comes before you are home.",
    "beeps": "It beeps: a limit is near. Slow down; tilt-back or cut-off may come next.",
    "overheated": "It overheated at {at_m:distance}. What it took from there on may be of a drive that held "
    "back. Let somebody who knows it look at it before it is ridden so again.",
    "held_back_before": "At {at_m:distance} came {what}, with {share:percent} of the range to cut-off still ahead: "
    "plan to be there before it comes.",
    "punctured": "A puncture at {at_m:distance}: what was ridden on a soft tyre counts as dearer than it is. End "
    "the test there, or begin another.",
    "fell": "A fall at {at_m:distance}. Have brakes, bars, wheels and the pack's case looked at before it is ridden on; "
    "a pack that was struck can fail later.",
    "may_not_arrive": "The pack reaches the end of these {way_m:distance} in {chance_pct:chance} of 100 "
    "cases. Plan where to stop, away from fast roads.",
    "may_not_get_home": "What is left covers the last {left_m:distance} in {chance_pct:chance} of 100 cases. "
    "Turn or stop where it is safe; slower goes further, and a charge on the way helps.",
    "cuts_into_reserve": "The last {left_m:distance} leave the reserve untouched in {chance_pct:chance} of 100 "
    "cases. Turn now, or ride slower.",
    "beyond_any_charge": "These {way_m:distance} are {ratio:.1f} times what one charge gives "
    "({reach_m:distance}). What would work: {floor_m:distance}, a charge on the way, or "
    "{packs} such packs.",
    "slow_to_none": "No speed above {least_mps:speed} brings this trip home in {wanted_pct:.0f} of "
    "100 cases with the reserve kept: shorten it, or charge on the way.",
    "implausible_consumption": "{wh_per_km:consumption} is far from the {low_wh_per_km:consumption#} "
    "to {high_wh_per_km:consumption#} that a {vehicle} uses. Was a distance, a volt or an amp-hour "
    "mistyped?",
    "implausible_forecast": "{wh_per_km:consumption} is far from the {low_wh_per_km:consumption#} to "
    "{high_wh_per_km:consumption#} that a {vehicle} uses. Check speed, load and climb.",
    "voltage_outside": "{voltage_v:g} V at {time_s:minutes} is outside {low_v:.0f} to {high_v:.0f} V "
    "for {series} cells of {chemistry}. Was it mistyped?",
    "rest_below_load": "At {time_s:minutes} the resting {rest_v:g} V is below the loaded "
    "{load_v:g} V. Were they swapped?",
    "charge_beyond_rating": "{charge_ah:g} Ah at {time_s:minutes} is over 1.3 times the rated "
    "{rated_ah:g} Ah. Was it mistyped?",
    "distance_backwards": "The {reading} at {time_s:minutes} is {back_m:distance} below the reading "
    "before it. Was it mistyped, or reset?",
    "distance_too_far": "The {reading} at {time_s:minutes} means {speed_mps:speed} since the reading "
    "before it. Kilometres for miles, or a digit too many?",
    "distance_beyond_pack": "The {reading} at {time_s:minutes} is {jump_m:distance} on, further than "
    "such a pack could take anything ({furthest_m:distance}). A digit too many?",
    "odometer_apart": "At {time_s:minutes} the odometer went {odometer_m:distance} and the trip meter "
    "{trip_m:distance}. Was a digit misread?",
    "charge_falls": "The amp-hours at {time_s:minutes} fell from {before_ah:g} to {now_ah:g}, more than a "
    "descent returns. Was it mistyped?",
    "gauge_rises": "The gauge at {time_s:minutes} rose from {before:g} to {now:g} though nothing rested. "
    "Was it mistyped, or did it recover on a stop?",
    "lap_apart": "The lap before {time_s:minutes} comes to {lap_m:length} where the others are "
    "{usual_m:length}. Was one not counted, or the trip meter misread?",
    "lap_time_apart": "The lap before {time_s:minutes} took {lap_s:minutes}, the others take {usual_s:minutes}. "
    "Was one not counted, or counted twice?",
    "entry_to_come": "The entry at {time_s:minutes} is of a time that comes only in {ahead_s:minutes}, by the "
    "server’s clock. Is the phone’s clock right?",
    "cell_absurd": "{cell_v:g} V at {time_s:minutes} is no voltage of a cell that still works. Was it "
    "mistyped?",
    "samples_of_another_clock": "The samples begin and end {ahead_s:minutes} {side} the entries: is the logger's clock of another zone, "
    "or of summer time? They are left out until their times fit.",
    "distances_contradict": "{first:first} says {first_m:distance}, {second} {second_m:distance}: no distance is told. {slip:slip}",
    "hangs_on_question": "A reading is questioned above: the figures hang on it until it is corrected or "
    "confirmed.",
    "energy_methods_disagree": "{other:first} gives {share:percent} {side} energy than {used}, beyond "
    "what both allow. {culprit}",
    "distance_methods_disagree": "{other:first} gives {share:percent} {side} distance than {used}, "
    "beyond what both allow. {culprit}",
    "more_than_label": "The ride used {share:percent} of what the label promises and had not ended; "
    "range is given as what was ridden. Check the label and the cut-off.",
    "charged_reckoned": "The pack was charged on the way: {energy_wh:.0f} Wh of it are reckoned to have come out again, "
    "and the range is that of one full pack without them. Note the resting volts before and after.",
    "charged_on_the_way": "The pack was charged on the way, and nobody says how much or how long: share, range and capacity "
    "are wrong by it. Enter either.",
    "counter_reset": "{reading:first} ran backwards {resets:times}; it was taken as reset and counted "
    "on. Check those readings.",
}
_ADVICE: Final = {
    "no_energy": "Nothing here gives the energy. Note the resting voltage before and after, or the "
    "meter's amp-hours.",
    "no_energy_no_curve": "Nothing here gives the energy. There is no voltage curve for {chemistry}: "
    "note the meter's amp-hours.",
    "energy_from_label": "No meter told the energy: it rests on the pack's label, whose age nobody knows, "
    "and is good to ±{share:percent}. Compare ranges, not consumptions, until one ride is metered.",
    "no_distance": "Nothing here gives the distance. Note the trip meter or count laps.",
    "nothing_recorded": "Nothing is recorded yet: what is said here is assumed. Note the gauge or the "
    "resting volts.",
    "no_charge_shown": "No reading on this ride shows how full the pack is, so no chance is given as over 95%. "
    "Read the gauge or the resting volts.",
    "no_way_yet": "No distance is recorded yet, so there is no way back to answer for. Note the trip meter, "
    "or give the way.",
    "no_range": "Range needs the share of the pack that was used. Note the resting voltage at the "
    "start and, ten minutes after the end, again.",
    "guess": "Only {share:percent} of the energy was used: the range is a guess. Ride at least "
    "{wanted:percent}, better half.",
    "no_capacity": "The pack's capacity needs amp-hours and either the end of the pack or resting "
    "voltages before and after.",
    "volts_cannot_tell": "The voltage curve of {chemistry} is flat where this ride ended: volts cannot "
    "tell how much is left. Log amp-hours.",
    "not_settled": "The last resting voltage came less than 10 min after load. Wait ten minutes next "
    "time: it narrows the range.",
    "accuracy_assumed": "No accuracy was given; assumed: {assumed}. Enter the makers' figures to "
    "replace them.",
    "cutoff_assumed": "The pack's cut-off is not known; {cutoff_v:.1f} V is assumed. Enter it.",
    "assumed_cutoff": "No cut-off voltage given: {cell_v:g} V a cell is taken, {cutoff_v:.1f} V for "
    "the pack.",
    "pack_taken": "Nobody says all of the pack: {series} cells of {chemistry} in series and {rated_ah:g} Ah "
    "are taken. Enter what its label says.",
    "pack_unlabelled": "Nothing tells how much the pack holds: energy and consumption are left open unless "
    "a meter tells them. Enter its amp-hours or watt-hours.",
    "set_right": "The {instrument} shows {share:percent} {side} by earlier tests ({tests}): its readings are set "
    "right by that. They are kept as they were noted.",
    "learned": "Earlier tests told {what} ({tests}); without them the answer would be wider.",
    "assumed_full": "No resting voltage at the start: the pack is taken as full, as such a test asks. Was it? Say so on the "
    "sheet, and note the volts next time.",
    "start_unsaid": "Nobody said how full the pack was: anything from {least:percent} up is reckoned with. Say so on the sheet "
    "if it was full, and note the resting volts next time.",
    "began_part_empty": "The pack began at {voltage_v:.1f} V, about {share:percent} of its usable "
    "energy; range is scaled up to a full pack. Start full to measure it.",
    "samples_incomplete": "The samples cover {share:percent} of the ride; {filled_wh:.0f} Wh were "
    "filled in from its consumption. Start the logger before the ride and stop it after.",
    "sample_gaps": "The samples have {gaps:many.gap}, {gap_s:.0f} s in all; {filled_wh:.1f} Wh were "
    "filled in. Check the logger's power and card.",
    "start_values": "Nothing is measured for this vehicle yet: start values for a {vehicle} are used. "
    "One logged test would narrow the band most.",
    "bearing_unknown": "The legs have no bearing, so the wind may help or hinder: the band is wider "
    "for it.",
    "enough_from": "From {from_m:distance} on the range is known to ±{wanted:percent}: more riding "
    "adds little.",
    "never_enough": "±{wanted:percent} is not reached before the end: {limit} limits it to about "
    "±{best:percent}. Only a ride to cut-off, or several rides, tell more.",
}
#: What would narrow the range most, each with its relative half-width now and then.
_NARROWS: Final = {
    "wait_to_settle": "Wait 10 min before reading volts at rest: ±{now:percent} → ±{then:percent}.",
    "log_charge": "Count amp-hours with a meter: volts alone do not know the cells' curve "
    "(known, ±{now:percent} → ±{then:percent}).",
    "ride_to_the_end_once": "Ride this pack to its end once, where that is safe: its true capacity "
    "would make ±{now:percent} ±{then:percent}.",
    "check_voltmeter": "Check the voltmeter against a better one: ±{now:percent} → ±{then:percent}.",
    "check_meter": "Check the meter against a known load: ±{now:percent} → ±{then:percent}.",
    "measure_wheel": "Scale the trip meter over a measured stretch: ±{now:percent} → ±{then:percent}.",
    "measure_course": "Measure the course by another way: ±{now:percent} → ±{then:percent}.",
    "end_level": "End where you started, or log heights: ±{now:percent} → ±{then:percent}.",
    "teach_gauge": "Note volts or amp-hours beside the gauge on one ride, so that its steps are known: "
    "±{now:percent} → ±{then:percent}.",
    "note_start": "Note the resting voltage before the start: ±{now:percent} → ±{then:percent}.",
    "note_cutoff": "Enter the pack's cut-off voltage: ±{now:percent} → ±{then:percent}.",
    "note_loaded_pair": "Note volts at rest and, pulling, volts with amps at one stop: "
    "±{now:percent} → ±{then:percent}.",
    "note_pack_temperature": "Note the pack's own temperature: ±{now:percent} → ±{then:percent}.",
    "ride_further": "Ride further before you stop: ±{now:percent} → ±{then:percent}.",
}
#: When a pack is to be tested again.
_AGAIN: Final = {
    "life_left": "It gives *{share:percent} of {of}* ({low:percent} to {high:percent}).",
    "life_left_level": "*No loss is shown yet*: it gives {share:percent} of {of} ({low:percent} to {high:percent}).",
    "drift_gauge": "At the same step of the gauge there is *{share:percent} of a full pack {way} left with each year* ({low:percent} "
    "to {high:percent}).",
    "drift_gauge_none": "The gauge means what it always did: no drift is shown, one of over {seen:percent} of a full pack a year "
    "would have been.",
    "drift_factor": "It shows *{share:percent} {way} with each year* ({low:percent} to {high:percent}): a tyre wears, or was changed.",
    "drift_factor_none": "It shows what it always did: no drift is shown, one of over {seen:percent} a year would have been.",
    "again_no_capacity": "No test has told its capacity yet: ride it once to cut-off with amp-hours read, then "
    "again at the next season.",
    "again_in": "Test it again in about {months:many.month}: by then it will have lost more than one "
    "test's ±{share:percent} can hide.",
    "again_now": "Test it again now: the last test that told its capacity is {months:many.month} old, and one "
    "test's ±{share:percent} no longer hides what it will have lost since.",
    "again_trend": "Two tests that told what is left of it begin a trend; there is {tests}.",
    "again_steady": "No loss can be shown yet: the trend may be level.",
    "again_usual": "Its tests do not tell yet when it is down to {share:percent} of {of}. With what is usual of "
    "packs: about {months:many.month} after its first test ({low_months} to {high_months}).",
    "again_step": "Between {before} and {after} it lost {share:percent} at once: a group of cells may have "
    "failed. Do not charge it unattended; have it looked at by a qualified person.",
    "again_crosses": "By its trend it is down to {share:percent} of {of} {months:many.month} after its first "
    "test ({low_months} to {high_months}).",
    "again_crossed": "By its trend it has been below {share:percent} of {of} since about {months:many.month} "
    "after its first test ({low_months} to {high_months}).",
}
_NOTE: Final = {
    "held_back": "At {at_m:distance} came {what}.",
    "rained": "It rained from {at_m:distance} on: a wet road takes more. Compare it with others of that kind.",
    "stood_overnight": "It stood overnight at {at_m:distance}: what a pack lost standing, and what the cold kept back "
    "in the morning, is counted to the ride and was not taken by the road.",
    "mode_took": "In mode {mode} it took {wh_per_km:consumption} over {length_m:distance}.",
    "reserve_assumed": "No reserve was set; {reserve:percent} is kept back.",
    "own_assumptions": "Assumed otherwise than usual, as this account wants it: {names}.",
    "limp_distance": "{limp_m:length} were ridden after the end and are kept apart.",
    "height_corrected": "The ride ended {height_m:length} {side} its start; range is for rides as hilly that end "
    "where they began, with {set_aside_wh:.0f} Wh set aside for the height.",
    "level_range": "On level roads this pack would go {range_m:distance}: the ride's hills lost {lost_wh:.0f} Wh.",
    "sample_gap": "The samples have a gap of {gap_s:.0f} s at {time_s:.0f} s; {filled_wh:.1f} Wh were "
    "filled in from {source:filled}.",
    "slow_to_not_needed": "The trip succeeds as planned; there is no need to ride slower.",
    "colder_than_table": "Below {limit_c:temperature} the pack is taken as at that, which flatters it.",
    "no_heights": "{file} has no heights: the route is taken as flat, and a hilly one will cost more.",
    "heights_filled": "{file}: {share:percent} of the heights are missing and were filled in between.",
    "empty_cells": "{file}: {count:many.empty cell} taken as not known.",
    "not_a_number": "{file}: {count:many.NaN cell} taken as not known.",
    "kind_missing": "{file}: {count} without a kind taken as checkpoint.",
    "times_filled": "{file}: {count:many.time} put where the distance was ridden; nobody noted them.",
    "current_flipped": "{file}: current_a was logged negative for discharge; it was turned round.",
    "duplicate_rows": "{file}: {count:many.exact duplicate row} left out.",
    "broken_last_line": "{file}: 1 last line that broke off was left out.",
    "unknown_columns": "{file}: kept but not used: {names}.",
    "unknown_fields": "{file}: kept but not used: {names}.",
    "odd_photo": "The picture {name} is left aside: it {why}.",
    "unknown_files": "Files left aside, not part of a test: {names}.",
    "semicolons": "{file}: read with {how}; commas and points are the standard.",
    "claim_not_possible": "Not physically possible at {speed_mps:speed}: the figure leaves "
    "{implied_wh_per_km:consumption}, and even a tucked-in rider on the best tyres needs "
    "{least_wh_per_km:consumption}; it would need {needed_mps:speed} or less.",
    "claim_not_possible_on_label": "Not physically possible at {speed_mps:speed}, unless the pack "
    "holds more than its label says: the figure leaves {implied_wh_per_km:consumption}, and even a "
    "tucked-in rider on the best tyres needs {least_wh_per_km:consumption}; it would need "
    "{needed_mps:speed} or less.",
    "claim_never_possible": "Not physically possible at {speed_mps:speed}: the figure leaves "
    "{implied_wh_per_km:consumption}, and even a tucked-in rider on the best tyres needs "
    "{least_wh_per_km:consumption}; at no speed would it do, for rolling alone takes more.",
    "size_refused": "{pack} is refused: each cell would give {peak_a:.1f} A at the worst, and it is "
    "rated for {rated_a:g} A; {least} parallel groups or more would bear it.",
    "size_too_small": "{pack} is too small: it arrives with the reserve kept in {chance_pct:chance} of "
    "100 cases, and about {needed_wh:.0f} Wh on the label are needed.",
    "size_fits": "{pack} makes the trip in {chance_pct:chance} of 100 cases with {reserve:percent} kept, "
    "still when {left:percent} of its capacity is left.",
    "size_fits_but_sags": "{pack} makes the trip in {chance_pct:chance} of 100 cases with "
    "{reserve:percent} kept, still when {left:percent} of its capacity is left; it sags "
    "{sag:percent} at the worst, so expect it to fade early.",
    "claim_up_to": "It can be true up to {needed_mps:speed}, for a light, tucked-in rider: it leaves "
    "{implied_wh_per_km:consumption}. With ordinary stops and hills such a vehicle takes about "
    "{usual_wh_per_km:consumption#} at {speed_mps:speed}.",
    "claim_gentle": "Possible, ridden gently by a light rider: it leaves "
    "{implied_wh_per_km:consumption}, between the least of {least_wh_per_km:consumption#} and the "
    "usual {usual_wh_per_km:consumption#} at {speed_mps:speed} with stops and hills.",
    "claim_fair": "Fair: it leaves {implied_wh_per_km:consumption}, and such a vehicle usually takes "
    "about {usual_wh_per_km:consumption#} at {speed_mps:speed}, stops and hills included.",
    "claim_modest": "Modest: it leaves {implied_wh_per_km:consumption} where such a vehicle usually "
    "takes about {usual_wh_per_km:consumption#} at {speed_mps:speed}, stops and hills included; expect to go "
    "further.",
    # What was kept in words by a version that knew another list.
    "as_kept": "{text}",
}

#: The verdict of a test, sentence by sentence; what stands between asterisks is the heart of it.
_VERDICT: Final = {
    "verdict_used": "It used *{wh_per_km:consumption!}*, give or take {off_wh_per_km:consumption#}.",
    "verdict_used_span": "It used somewhere between {low_wh_per_km:consumption#} and "
    "{high_wh_per_km:consumption!}.",
    "verdict_use_unknown": "What is noted does not give its consumption yet.",
    "verdict_range": "Ridden like this, the pack takes {who} {range_m:distance!} to cut-off; *plan on "
    "{plan_m:distance#}*.",
    "verdict_range_measured": "From full, the pack took {who} {range_m:distance!} to its end; *plan on "
    "{plan_m:distance#}*.",
    "verdict_plan": "Plan on *{plan_m:distance!}*, with {reserve:percent} kept.",
    "verdict_range_span": "{what:first} cannot tell how far this pack goes: somewhere between "
    "*{low_m:distance#} and {high_m:distance!}*.",
    "verdict_range_unknown": "How far the pack goes is not told yet: that needs the share of it that was "
    "used.",
    "verdict_contradicted": "How far the pack goes is not told: what was noted can't all be true.",
    "verdict_floor": "Not fewer than *{plan_m:distance!}* ridden like this, 19 times in 20 and with "
    "{reserve:percent} kept; the pack takes {who} about {range_m:distance#} to cut-off.",
    "verdict_floor_measured": "Not fewer than *{plan_m:distance!}* ridden like this, 19 times in 20 and "
    "with {reserve:percent} kept; the pack took {who} {range_m:distance#} to its end.",
    "verdict_claim_held": "The maker's {claimed_m:distance!} hold, {held:chance_of} sure: *{range_m:distance#}* "
    "{how}, {apart:percent} more.",
    "verdict_claim_missed": "The maker's {claimed_m:distance!} do not hold: *{range_m:distance#}* {how}, "
    "{apart:percent} fewer; {held:chance_of} is the chance that they do.",
    "verdict_claim_open": "The chance that the maker's {claimed_m:distance!} hold is {held:chance_of}: "
    "*{low_m:distance#} to {high_m:distance!}* {how}.",
    "verdict_claim_unsaid": "No maker's figure is on the sheet; say it, and this ride is held against it.",
    "verdict_ageing": "The pack holds *{retained:percent} of its label*, brought to {at_c:temperature}: "
    "{low:percent} to {high:percent}.",
    "verdict_ageing_unknown": "What the pack still holds was not told: that takes amp-hours and its end, or "
    "settled volts before and after.",
    "verdict_temperature": "At {temp_c:temperature} the pack goes *{range_m:distance!}* and takes "
    "{wh_per_km:consumption!}.",
    "verdict_temperature_pack": "The cold kept back {lost:percent} of what it would hold at "
    "{at_c:temperature}.",
    "verdict_temperature_unsaid": "The temperature is not on the sheet; say it, and this ride can stand "
    "beside those of another season.",
    "verdict_compare": "Another single run is told from this one when it differs by *{apart:percent}* or "
    "more.",
    "verdict_economy": "Ridden gently, the pack goes *{range_m:distance!}* at {wh_per_km:consumption!}; "
    "plan on {plan_m:distance#}.",
    "verdict_commute": "The way of {way_m:distance!} took *{share:percent} of the pack*, {low:percent} to "
    "{high:percent}; with {reserve:percent} kept, plan on {plan_m:distance#}.",
    "take_wait_to_settle": "Wait ten minutes before you read volts at rest.",
    "take_log_charge": "Log amp-hours.",
    "take_ride_to_the_end_once": "Ride this pack to its end once, where that is safe.",
    "take_check_voltmeter": "Check the voltmeter.",
    "take_check_meter": "Check the meter.",
    "take_measure_wheel": "Scale the trip meter over a measured stretch.",
    "take_measure_course": "Measure the course by another way.",
    "take_end_level": "End where you started, or log heights.",
    "take_teach_gauge": "Note volts or amp-hours beside the gauge.",
    "take_note_start": "Note the resting volts before the start.",
    "take_note_cutoff": "Enter the pack's cut-off.",
    "take_note_loaded_pair": "Note volts at rest and pulling, with the amps, at one stop.",
    "take_note_pack_temperature": "Note the pack's own temperature.",
    "take_ride_further": "Ride further before you stop.",
}

#: What a comparison says; the heart of it between asterisks.
_COMPARE: Final = {
    "compare_less_energy": "{which:first} uses *{share:percent} less* a distance, {low:percent} to {high:percent}.",
    "compare_less_range": "{which:first} goes *{share:percent} less far*, {low:percent} to {high:percent}.",
    "compare_less_kept": "{which:first} holds *{share:percent} less* of what it held when new, {low:percent} to "
    "{high:percent}.",
    "compare_none": "*No difference shown.* One of {seen:percent} or more would most likely have been seen.",
    "compare_found": "As they were ridden {which:side} had {share:percent} less; conditions made up the rest.",
    "compare_runs": "{runs:many.more run} of each would show {wanted:percent}, in the order {order}.",
    "compare_many": "More like these would show {wanted:percent} only after {needed} of each. Ridden alike, on one way with one meter and "
    "in turns ({order}), {runs} of each would show {seen:percent}.",
    "compare_never": "No number of more such runs would show {wanted:percent}: meters, and what sets conditions right, are "
    "not good enough. Ridden alike, on one way with one meter and in turns ({order}), {runs} of each would show "
    "{seen:percent}.",
    "compare_same": "“{title}” stands on both sides. Choose another test for one of them.",
    "compare_too_few": "Two tests make a comparison. Choose one for each side.",
    "compare_too_many": "{count} tests on one side are more than the {most} that are compared at once. Choose fewer.",
    "compare_assisted": "“{assisted}” was ridden with help from legs and “{throttle}” without: how much they gave is not "
    "known, so neither can be carried to the other. Type the watts into its sheet, or ask what legs give.",
    "compare_legs_unknown": "Legs helped in “{title}”, and how much nobody noted: what they gave from ride to ride is in the "
    "interval. Type the watts into the sheet to adjust for it.",
    "compare_legs_carried": "Legs helped in “{title}” with about {watts:.0f} W, as its rider told: this is adjusted for, ± "
    "a quarter of it.",
    "compare_no_figure": "“{title}” tells nothing that the others tell too. Enter readings of it first.",
    "compare_single": "Each side is one run: what changes from run to run is assumed, and in the interval.",
    "compare_single_learned": "Each side is one run: what changes from run to run is in the interval, as {runs} earlier runs show it.",
    "compare_order": "All runs of one side came before those of the other: wind, warmth and a tiring pack go with the "
    "order. Alternate: A B B A.",
    "compare_ends": "They ended differently; both were brought to cut-off.",
    "compare_unmetered": "No meter: energy is from volts, gauge or label. What both sides share of that cancels.",
    "compare_packs": "The packs differ too: this is of both together.",
    "compare_vehicles": "The vehicles differ too: this is of both together.",
    "compare_riders": "The riders differ; how they ride is in it.",
    "compare_differs": "They differ in more than the question: {names} alone by over {share:percent}.",
    "compare_no_speed": "The speed of “{title}” is not known, so it was not adjusted for.",
    "season_less_range": "At about {speed_mps:speed} *{step_c:degrees} colder cost {share:percent} of the range*, "
    "{low:percent} to {high:percent}.",
    "season_more_range": "At about {speed_mps:speed} it went *{share:percent} further for {step_c:degrees} colder*, "
    "{low:percent} to {high:percent}: something else changed with the season.",
    "season_more_energy": "At about {speed_mps:speed} *{step_c:degrees} colder take {share:percent} more* a distance, "
    "{low:percent} to {high:percent}.",
    "season_less_energy": "At about {speed_mps:speed} it took *{share:percent} less for {step_c:degrees} colder*, "
    "{low:percent} to {high:percent}: something else changed with the season.",
    "season_none": "At about {speed_mps:speed} *no difference is shown*: one of {seen:percent} for {step_c:degrees} would "
    "most likely have been seen.",
    "season_too_few": "At about {speed_mps:speed} all was ridden at one temperature ({tests:many.test}): ride it again in "
    "another season.",
    "season_aged": "At about {speed_mps:speed} the tests lie over a year apart: what the pack lost meanwhile is in it.",
    "compare_pack_changed": "“{name}” has another label in one test than in the other: it was changed in between, or one of "
    "them is mistyped. Correct the sheet, or give the new pack a name of its own.",
    "compare_clocks": "By the clocks “{title}” was ridden before “{other}”: A is the later state of the pack. If that is wrong, "
    "correct the time on its sheet.",
    "compare_one_rider": "Nobody says who rode; it is taken for one and the same.",
}

#: What Limpet learned to work out better, oldest first (`limpet.tell.learned`).
_LEARNED: Final = {
    "learned_lfp": "A full LFP pack is recognised by its resting volts, so the start is known better.",
    "learned_label": "Packs that hold more than their label says are allowed for.",
    "learned_display": "A display shows no part of a step: half a step is added to a trip meter or an odometer.",
    "learned_road": "Without a meter, consumption starts from this ride's speed, load, hills and wind, "
    "not from an average of such vehicles.",
    "learned_hills": "Range is for rides as hilly as this one, there and back.",
    "learned_promise": "Plan on is for weather like this ride's and for some months; the range on similar days "
    "varies less than over a year.",
    "learned_pulls": "Where a log shows the current, cut-off is reckoned at the pulls it shows, however long you "
    "rolled between them.",
    "learned_other": "Smaller corrections to how it is worked out.",
}

_BY_SEVERITY: Final[dict[Severity, dict[str, str]]] = {
    "danger": _DANGER,
    "caution": _CAUTION,
    "advice": {**_ADVICE, **_NARROWS},
    "note": {**_NOTE, **_VERDICT, **_AGAIN, **_COMPARE, **_LEARNED},
}
CODES: Final[dict[str, NoticeKind]] = {
    code: NoticeKind(severity, template)
    for severity, table in _BY_SEVERITY.items()
    for code, template in table.items()
}
