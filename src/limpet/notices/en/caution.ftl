### What is to be weighed before riding on, or before a figure is believed.

cut_its_speed = It has cut its speed: the pack is fading. Stay out of fast traffic and plan where to stop.
readings_contradict =
    These readings can’t all be true, so there is no range. The odd one out is the { $what } at { MINUTES($time_s) }. Was it
    mistyped? Check the trip meter too, and the pack’s cells and amp-hours.
end_contradicts =
    These readings can’t all be true, so there is no range. The sheet says the pack was empty at { MINUTES($time_s) }, but the
    other readings show plenty left. Was it empty? Check the cut-off, the cells and the amp-hours.
past_what_it_holds =
    There is no range: by { MINUTES($time_s) } you had used more than such a pack can hold, and it was still running. Are its
    cells and amp-hours right? Did the meter start at zero? Was it charged on the way?
ridden_against_label =
    What you rode from full to the end doesn’t fit the pack’s label or the other readings. The range shown is what you rode.
    Was the pack full? Did the ride end because it was empty? Are its cells and amp-hours right?
other_pack_fits = With { $what } the readings would agree. Is that your pack? Then correct it in Kit.
at_a_step =
    Take a quiet way home: at { $what } it goes no faster than { SPEED($speed_mps) }, by its own table.
step_ahead =
    From about { DISTANCE($at_m) } on it may go no faster than { SPEED($speed_mps) }: its table says so for { $what }.
    { CHANCE_OF($chance) } that this comes before you are home.
beeps = It beeps: slow down. A limit is near; tilt-back or cut-off may come next.
overheated =
    It overheated at { DISTANCE($at_m) }. After that the drive may have held back. Have somebody who knows it look at it before
    you ride like this again.
held_back_before =
    { FIRST($what) } came at { DISTANCE($at_m) }, with { PERCENT($share) } of the range to cut-off still left. Plan to be there
    before it comes.
punctured =
    A puncture at { DISTANCE($at_m) }: riding on a soft tyre uses more. End the test there, or start a new one.
fell =
    A fall at { DISTANCE($at_m) }. Before you ride on, have the brakes, bars, wheels and the pack’s case looked at. A pack that
    took a knock can fail later.
may_not_arrive =
    Plan where to stop, away from fast roads: the pack lasts for these { DISTANCE($way_m) } in { CHANCE($chance_pct) } of 100
    cases.
may_not_get_home =
    Turn back or stop where it is safe: what is left covers the last { DISTANCE($left_m) } in { CHANCE($chance_pct) } of 100
    cases. Riding slower helps, and so does a charge on the way.
cuts_into_reserve =
    Turn back now, or ride slower: the last { DISTANCE($left_m) } leave the reserve untouched in { CHANCE($chance_pct) } of 100
    cases.
beyond_any_charge =
    { DISTANCE($way_m) } is { FIXED($ratio, digits: 1) } times what one charge gives ({ DISTANCE($reach_m) }). What would work:
    { DISTANCE($floor_m) }, a charge on the way, or { $packs } such packs.
slow_to_none =
    Shorten the trip, or charge on the way: no speed above { SPEED($least_mps) } gets you home in
    { FIXED($wanted_pct, digits: 0) } of 100 cases with the reserve left.
implausible_consumption =
    { CONSUMPTION($wh_per_km) } is far from the { CONSUMPTION($low_wh_per_km, unit: "no") } to
    { CONSUMPTION($high_wh_per_km, unit: "no") } that a { $vehicle } uses. Was a distance, a voltage or an amp-hour figure mistyped?
implausible_forecast =
    { CONSUMPTION($wh_per_km) } is far from the { CONSUMPTION($low_wh_per_km, unit: "no") } to
    { CONSUMPTION($high_wh_per_km, unit: "no") } that a { $vehicle } uses. Check speed, load and climb.
voltage_outside =
    { PLAIN($voltage_v) } V at { MINUTES($time_s) } is outside the { FIXED($low_v, digits: 0) } to
    { FIXED($high_v, digits: 0) } V of { $series } cells of { CHEMISTRY($chemistry) }. Was it mistyped?
rest_below_load =
    At { MINUTES($time_s) } the resting { PLAIN($rest_v) } V is below the { PLAIN($load_v) } V under load. Were they swapped?
charge_beyond_rating =
    { PLAIN($charge_ah) } Ah at { MINUTES($time_s) } is over 1.3 times the rated { PLAIN($rated_ah) } Ah. Was it mistyped?
distance_backwards =
    The { $reading } at { MINUTES($time_s) } is { DISTANCE($back_m) } below the reading before it. Was it mistyped, or was the
    meter reset?
distance_too_far =
    The { $reading } at { MINUTES($time_s) } means { SPEED($speed_mps) } since the reading before it. Kilometres for miles, or
    a digit too many?
distance_beyond_pack =
    The { $reading } at { MINUTES($time_s) } is { DISTANCE($jump_m) } further on. No such pack gets that far
    ({ DISTANCE($furthest_m) }). A digit too many?
odometer_apart =
    At { MINUTES($time_s) } the odometer had gone { DISTANCE($odometer_m) } and the trip meter { DISTANCE($trip_m) }. Was a
    digit misread?
charge_falls =
    The amp-hours at { MINUTES($time_s) } fell from { PLAIN($before_ah) } to { PLAIN($now_ah) }, more than a descent gives back.
    Was it mistyped?
gauge_rises =
    The gauge at { MINUTES($time_s) } rose from { PLAIN($before) } to { PLAIN($now) } without a rest. Was it mistyped, or did it
    recover at a stop?
lap_apart =
    The lap before { MINUTES($time_s) } comes to { LENGTH($lap_m) }, the others to { LENGTH($usual_m) }. Was one not counted, or
    the trip meter misread?
lap_time_apart =
    The lap before { MINUTES($time_s) } took { MINUTES($lap_s) }, the others take { MINUTES($usual_s) }. Was one not counted, or
    counted twice?
entry_to_come =
    The entry at { MINUTES($time_s) } lies { MINUTES($ahead_s) } in the future by the server’s clock. Is the phone’s clock right?
cell_absurd =
    { PLAIN($cell_v) } V at { MINUTES($time_s) } can’t be a working cell’s voltage. Was it mistyped?
samples_of_another_clock =
    The samples begin and end { MINUTES($ahead_s) } { $side } the entries. Is the logger’s clock on another time zone, or on
    summer time? They are left out until their times fit.
distances_contradict =
    { FIRST($first) } says { DISTANCE($first_m) }, { $second } { DISTANCE($second_m) }, so there is no distance. { SLIP($slip) }
hangs_on_question = A reading is questioned above. The figures depend on it until you correct or confirm it.
energy_methods_disagree =
    { FIRST($other) } gives { PERCENT($share) } { $side } energy than { $used }, more than either could be off. { $culprit }
distance_methods_disagree =
    { FIRST($other) } gives { PERCENT($share) } { $side } distance than { $used }, more than either could be off. { $culprit }
more_than_label =
    The ride used { PERCENT($share) } of what the label promises, and hadn’t ended. The range shown is what you rode. Check the
    label and the cut-off.
charged_reckoned =
    The pack was charged on the way. About { FIXED($energy_wh, digits: 0) } Wh of that came out again and is taken off, so the
    range is for one full pack. Note the resting volts before and after a charge.
charged_on_the_way =
    The pack was charged on the way, and nothing shows by how much: share used, range and capacity are wrong by that. Enter how
    much went in, or how long it charged.
counter_reset =
    { FIRST($reading) } ran backwards { TIMES($resets) }. It was taken as reset, and counting went on. Check those readings.
