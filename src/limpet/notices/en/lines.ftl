### What matters most at this moment of a ride: a line, and what stands under it.

stop_now = Stop now
stop_now_under = The pack is at a limit; tap to see why.
tilt_back = Get off: it has begun to tilt back
tilt_back_under = The pack can’t hold you up much longer. Walk, charge, or get a lift.
beeping = It beeps: slow down and plan your stop
beeping_under = A limit is near. What comes next may be tilt-back or cut-off.
speed_step = It has cut its speed: take a quiet way home
speed_step_under = The pack is fading. Stay out of fast traffic.
too_hot = Stop and let it cool
too_hot_under = It overheated. Find out why before you ride on.
read_volts = Read the resting volts
read_volts_under = Throttle closed, pack rested. Reset the trip meter, then note both.
contradict = These readings can’t all be true
contradict_under = No range until they fit. Check your last entries; tap for which.
shown_short = The display shows { DISTANCE($shown_m) }, { DISTANCE($left_m) } to go
shown_short_under = { CHANCE_OF($reaches) } to get home at all. Slow down, or plan a charge.
range_left = About { DISTANCE($range_m) } left
range_left_under = At least { DISTANCE($least_m) } before the reserve
enough = Enough: ±{ PERCENT($half) } reached
enough_under = The range is known as well as you wanted. End here, or go on.
turn_now = Turn back now
turn_now_under =
    { CHANCE_OF($arrives) } to get home with { PERCENT($reserve) } left, { CHANCE_OF($reaches) } to get home at all
turn_by = Turn back when { $reads } { DISTANCE($turn_shown_m) }
turn_by_under =
    { DISTANCE($to_go_m) } from here. If you turn now: { CHANCE_OF($arrives) } to get home with { PERCENT($reserve) }
    left
slow_to = Slow to { SPEED($speed_mps) }
slow_to_under = { CHANCE_OF($chance) } to get home with { PERCENT($reserve) } left then; { CHANCE_OF($arrives) } as now
home = Home with about { PERCENT($left) } left
home_under = { CHANCE_OF($reaches) } to get home; { DISTANCE($left_m) } to go
should = You should get home: { CHANCE_OF($reaches) }
should_under = { CHANCE_OF($arrives) } with { PERCENT($reserve) } left; { DISTANCE($left_m) } to go
reserve = You’ll need the reserve to get home
reserve_under = { CHANCE_OF($reaches) } to get home at all, { CHANCE_OF($arrives) } with { PERCENT($reserve) } left
probably = You will probably get home: { CHANCE_OF($reaches) }
probably_under = { CHANCE_OF($arrives) } with { PERCENT($reserve) } left; { DISTANCE($left_m) } to go
might_not = You might not make it home: { CHANCE_OF($reaches) }
might_not_under = { DISTANCE($left_m) } to go. Tap for what else you can do.
probably_not = You probably won’t make it home: { CHANCE_OF($reaches) }
probably_not_under = { DISTANCE($left_m) } to go. Tap for the ways out.
not_home = Not on this charge
not_home_under = { CHANCE_OF($reaches) } to get home; { DISTANCE($left_m) } to go. Tap for the ways out.
laps = You can finish this lap; the next one: { CHANCE_OF($next) }
laps_under = Lap { FIXED($lap) }: { CHANCE_OF($this) } with { PERCENT($reserve) } left
laps_reserve = You’ll need the reserve to finish this lap
laps_reserve_under =
    Lap { FIXED($lap) }: { CHANCE_OF($reaches) } to get round at all, { CHANCE_OF($this) } with { PERCENT($reserve) }
    left
laps_short = You might not finish this lap: { CHANCE_OF($reaches) }
laps_short_under = Lap { FIXED($lap) }: { CHANCE_OF($this) } with { PERCENT($reserve) } left
there = You’re there
there_under = Let the pack rest, read the volts, then tap End.

## How a rider’s own instrument is named in a line: what it does with the figure that follows.

reads_trip_m = the trip meter reads
reads_odometer_m = the odometer reads
reads_gps_m = the GPS reads
reads_track = your track shows
reads_nothing = you have ridden
