### The verdict of a test, sentence by sentence. What stands between asterisks is the heart of it.

verdict_used =
    It used *{ CONSUMPTION($wh_per_km, unit: "words") }*, give or take { CONSUMPTION($off_wh_per_km, unit: "no") }.
verdict_used_span =
    It used somewhere between { CONSUMPTION($low_wh_per_km, unit: "no") } and { CONSUMPTION($high_wh_per_km, unit: "words") }.
verdict_use_unknown = The readings don’t give its consumption yet.
verdict_range =
    Ridden like this, the pack takes { $who } { DISTANCE($range_m, unit: "words") } to cut-off; *plan on
    { DISTANCE($plan_m, unit: "no") }*.
verdict_range_measured =
    From full, the pack took { $who } { DISTANCE($range_m, unit: "words") } to its end; *plan on
    { DISTANCE($plan_m, unit: "no") }*.
verdict_plan = Plan on *{ DISTANCE($plan_m, unit: "words") }*, with { PERCENT($reserve) } in reserve.
verdict_range_span =
    { FIRST($what) } can’t show how far this pack goes: somewhere between *{ DISTANCE($low_m, unit: "no") } and
    { DISTANCE($high_m, unit: "words") }*.
verdict_range_unknown =
    This ride doesn’t show yet how far the pack goes: for that, the share of the pack it used must be known.
verdict_contradicted = There is no range: these readings can’t all be true.
verdict_floor =
    Count on at least *{ DISTANCE($plan_m, unit: "words") }* ridden like this, with { PERCENT($reserve) } in reserve (19 rides in
    20). To cut-off the pack takes { $who } about { DISTANCE($range_m, unit: "no") }.
verdict_floor_measured =
    Count on at least *{ DISTANCE($plan_m, unit: "words") }* ridden like this, with { PERCENT($reserve) } in reserve (19 rides in
    20). To its end the pack took { $who } { DISTANCE($range_m, unit: "no") }.
verdict_claim_held =
    The maker’s { DISTANCE($claimed_m, unit: "words") } holds up ({ CHANCE_OF($held) } sure): you
    get *{ DISTANCE($range_m, unit: "no") }*, { PERCENT($apart) } more, { $how }.
verdict_claim_missed =
    The maker’s { DISTANCE($claimed_m, unit: "words") } doesn’t hold up: you get *{ DISTANCE($range_m, unit: "no") }*,
    { PERCENT($apart) } less, { $how }. The chance that it does is { CHANCE_OF($held) }.
verdict_claim_open =
    Can’t tell yet whether the maker’s { DISTANCE($claimed_m, unit: "words") } holds up: you get *{ DISTANCE($low_m, unit: "no") }
    to { DISTANCE($high_m, unit: "words") }* { $how }. The chance that it does is { CHANCE_OF($held) }.
verdict_claim_unsaid = No maker’s figure yet. Add it to the sheet, and this ride is compared with it.
verdict_ageing =
    The pack holds *{ PERCENT($retained) } of its label* ({ PERCENT($low) } to { PERCENT($high) }), adjusted to
    { TEMPERATURE($at_c) }.
verdict_ageing_unknown =
    This ride can’t show how much capacity is left. For that, note amp-hours and ride to the end, or note resting volts before and
    after.
verdict_temperature =
    At { TEMPERATURE($temp_c) } the pack goes *{ DISTANCE($range_m, unit: "words") }* and uses
    { CONSUMPTION($wh_per_km, unit: "words") }.
verdict_temperature_pack =
    The cold kept back { PERCENT($lost) } of what the pack would hold at { TEMPERATURE($at_c) }.
verdict_temperature_unsaid =
    The sheet doesn’t say the temperature. Add it, and this ride can be compared with those of another season.
verdict_compare =
    One more ride would have to differ by *{ PERCENT($apart) }* before you could call it a real difference.
verdict_economy =
    Ridden gently, the pack goes *{ DISTANCE($range_m, unit: "words") }* at { CONSUMPTION($wh_per_km, unit: "words") }; plan on
    { DISTANCE($plan_m, unit: "no") }.
verdict_commute =
    The { DISTANCE($way_m, unit: "hyphen") } ride used *{ PERCENT($share) } of the pack* ({ PERCENT($low) } to
    { PERCENT($high) }). Keeping { PERCENT($reserve) } in reserve, plan on { DISTANCE($plan_m, unit: "words") }.
take_wait_to_settle = Wait ten minutes before you read the resting volts.
take_log_charge = Log amp-hours.
take_ride_to_the_end_once = Ride this pack to its end once, where that is safe.
take_check_voltmeter = Check the voltmeter.
take_check_meter = Check the meter.
take_measure_wheel = Check the trip meter over a measured stretch.
take_measure_course = Measure the route another way (GPS, map).
take_end_level = End where you started, or log heights.
take_teach_gauge = Note volts or amp-hours beside the gauge.
take_note_start = Note the resting volts before the start.
take_note_cutoff = Enter the pack’s cut-off.
take_note_loaded_pair = At one stop note the resting volts, then volts and amps under load.
take_note_pack_temperature = Note the pack’s own temperature.
take_ride_further = Ride further before you stop.
