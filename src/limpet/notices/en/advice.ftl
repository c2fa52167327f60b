### What would make the next answer better.

no_energy = Nothing here shows the energy used. Note the resting volts before and after, or the meter’s amp-hours.
no_energy_no_curve =
    Nothing here shows the energy used, and there is no voltage curve for { CHEMISTRY($chemistry) }. Note the meter’s amp-hours.
energy_from_label =
    No energy meter: watt-hours are estimated from the pack’s label (its age is unknown), good to about ±{ PERCENT($share) }.
    Compare ranges, not consumption, until one ride is metered.
no_distance = Nothing here shows the distance. Note the trip meter or count laps.
nothing_recorded = Nothing is recorded yet, so all of this is assumed. Note the gauge or the resting volts.
no_charge_shown =
    Read the gauge or the resting volts. No reading on this ride shows how full the pack is, so no chance is given as over 95%.
no_way_yet =
    No distance is recorded yet, so there is no ride home to work out. Note the trip meter, or choose the route.
no_range =
    For a range, the share of the pack you used must be known. Note the resting volts at the start, and again ten minutes after
    the end.
guess =
    You used only { PERCENT($share) } of the energy, so the range is a guess. Use at least { PERCENT($wanted) }, better half.
no_capacity =
    For the pack’s capacity, note amp-hours, and either ride to the end of the pack or note the resting volts before and after.
volts_cannot_tell =
    Log amp-hours: { CHEMISTRY($chemistry) } volts hardly change where this ride ended, so they can’t show how much is left.
not_settled =
    Wait ten minutes next time: the last resting volts were read less than 10 min after load. Waiting narrows the range.
accuracy_assumed = No accuracy was given; assumed: { $assumed }. Enter the makers’ figures to replace them.
cutoff_assumed = Enter the pack’s cut-off. It isn’t known; { FIXED($cutoff_v, digits: 1) } V is assumed.
assumed_cutoff =
    No cut-off voltage given: { PLAIN($cell_v) } V a cell is assumed, { FIXED($cutoff_v, digits: 1) } V for the pack.
pack_taken =
    Enter what the pack’s label says. Until then { $series } cells of { CHEMISTRY($chemistry) } in series and { PLAIN($rated_ah) } Ah are
    assumed.
pack_unlabelled =
    Enter the pack’s amp-hours or watt-hours. Without them, energy and consumption stay open unless a meter shows them.
set_right =
    The { $instrument } shows { PERCENT($share) } { $side }, as earlier tests found ({ $tests }). Its readings are corrected by
    that, and saved as you noted them.
learned = Earlier tests showed { $what } ({ $tests }). Without them the answer would be wider.
assumed_full =
    Was it full? No resting volts were noted at the start, so the pack is taken as full, as such a test asks. Say so on the
    sheet, and note the volts next time.
start_unsaid =
    How full was the pack? Anything from { PERCENT($least) } up is allowed for. If it was full, say so on the sheet, and note the
    resting volts next time.
began_part_empty =
    Start full to measure the range. The pack began at { FIXED($voltage_v, digits: 1) } V, about { PERCENT($share) } of its
    usable energy, so the range is scaled up.
samples_incomplete =
    Start the logger before the ride and stop it after. The samples cover { PERCENT($share) } of the ride;
    { FIXED($filled_wh, digits: 0) } Wh were filled in from its consumption.
sample_gaps =
    Check the logger’s power and card. The samples have { $gaps ->
        [one] a gap
       *[other] { FIXED($gaps, digits: 0) } gaps
    } of { FIXED($gap_s, digits: 0) } s in all; { FIXED($filled_wh, digits: 1) } Wh were filled in.
start_values =
    Nothing is measured for this vehicle yet, so start values for a { $vehicle } are used. One logged test would narrow this most.
bearing_unknown = The legs have no bearing, so the wind may help or hinder. That makes the answer wider.
enough_from =
    From { DISTANCE($from_m) } on the range is known to ±{ PERCENT($wanted) }. Riding further adds little.
never_enough =
    This ride can’t reach ±{ PERCENT($wanted) } before its end: { $limit } limits it to about ±{ PERCENT($best) }. Ride to
    cut-off once, or ride more often.

## What would narrow the range most, each with its half-width now and then.

wait_to_settle = Wait 10 min before you read resting volts: narrows ±{ PERCENT($now) } to ±{ PERCENT($then) }.
log_charge =
    Count amp-hours with a meter; volts alone don’t know the cells’ curve: narrows ±{ PERCENT($now) } to ±{ PERCENT($then) }.
ride_to_the_end_once =
    Ride this pack to its end once, where that is safe, to learn its true capacity: narrows ±{ PERCENT($now) } to
    ±{ PERCENT($then) }.
check_voltmeter = Check the voltmeter against a better one: narrows ±{ PERCENT($now) } to ±{ PERCENT($then) }.
check_meter = Check the meter against a known load: narrows ±{ PERCENT($now) } to ±{ PERCENT($then) }.
measure_wheel = Check the trip meter over a measured stretch: narrows ±{ PERCENT($now) } to ±{ PERCENT($then) }.
measure_course =
    Measure the route another way (GPS, map): narrows ±{ PERCENT($now) } to ±{ PERCENT($then) }.
end_level = End where you started, or log heights: narrows ±{ PERCENT($now) } to ±{ PERCENT($then) }.
teach_gauge =
    Note volts or amp-hours beside the gauge on one ride, so that its steps are known: narrows ±{ PERCENT($now) } to
    ±{ PERCENT($then) }.
note_start = Note the resting volts before the start: narrows ±{ PERCENT($now) } to ±{ PERCENT($then) }.
note_cutoff = Enter the pack’s cut-off voltage: narrows ±{ PERCENT($now) } to ±{ PERCENT($then) }.
note_loaded_pair =
    At one stop note the resting volts, then volts and amps under load: narrows ±{ PERCENT($now) } to ±{ PERCENT($then) }.
note_pack_temperature = Note the pack’s own temperature: narrows ±{ PERCENT($now) } to ±{ PERCENT($then) }.
ride_further = Ride further before you stop: narrows ±{ PERCENT($now) } to ±{ PERCENT($then) }.
