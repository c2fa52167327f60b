### What a method adds about itself, one after the other.

samples = { FIXED($count, digits: 0) } samples.
filled_in = { FIXED($energy_wh, digits: 1) } Wh were filled in.
covers = The readings cover { FIXED($percent, digits: 0) }% of the ride; the rest is filled in.
meter = The meter’s { $what }, from the { $source }.
volts_of_samples = Volts from the samples.
loaded_volts =
    { $count ->
        [one] 1 voltage under load.
       *[other] { FIXED($count, digits: 0) } voltages under load.
    }
resting_volts = Resting volts less the sag.
route = As the route was planned.
zero_at_start = Taken as 0 at the start.
speed_integrated = Worked out from the speed.
track_holes =
    { $holes ->
        [one] 1 hole
       *[other] { FIXED($holes, digits: 0) } holes
    } in the track: { FIXED($length_m, digits: 0) } m filled in by straight lines.
track_breaks = Breaks between track segments are not counted.
display_step = Half a step of the display ({ FIXED($half_step_m, digits: 0) } m) is added, because it shows only whole steps.
bends = The track’s points are far apart, so { FIXED($length_m, digits: 0) } m of bends between them are added.
pieces = What was pushed or missed is allowed for.
laps = { PLAIN($laps) } laps of { PLAIN($length_m) } m.
laps_and_finer = { PLAIN($laps) } laps of { PLAIN($length_m) } m, the rest by the trip meter or the track.
laps_and_half = { PLAIN($laps) } laps of { PLAIN($length_m) } m and about half of the next.
laps_and_pace = { PLAIN($laps) } laps of { PLAIN($length_m) } m, the last at the pace of those before.
wall = { FIXED($wall_wh, digits: 0) } Wh at the socket, of which { FIXED($percent, digits: 0) }% reaches the ride.
label = The label, full to cut-off; packs often give 0 to 13% more (common practice).
gauge = What the gauge fell by, as such gauges usually go.
straight_line =
    { FIXED($from_v, digits: 1) } V to { FIXED($to_v, digits: 1) } V resting, on a straight line from full to cut-off.
through_curves =
    { FIXED($from_v, digits: 1) } V to { FIXED($to_v, digits: 1) } V resting, through the { CHEMISTRY($chemistry) } curves;
    { FIXED($percent, digits: 0) }% lost as heat in the pack.
own_curve = The curve is this pack’s own, { $source }.
one_run = one ride; { FIXED($percent, digits: 0) }% from ride to ride on such days is assumed
several_runs = { FIXED($percent, digits: 0) }% from ride to ride in { $runs } earlier rides
