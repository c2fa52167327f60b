### The five lessons of the practice ride, and what a slip in a reading was.

settle_title = Settle before you read
settle_met = You waited { FIXED($waited_s) } s or longer before each resting voltage.
settle_missed =
    At { DISTANCE($at_m) } you read { FIXED($read_v, digits: 1) } V, { FIXED($waited_s) } s after stopping. Settled, it would
    have come to { FIXED($truly_v, digits: 1) } V.
settle_untried = You read no resting volts on the ride. Stop, wait until the volts stand still, then read.
pulling_title = Under load is not resting
pulling_met =
    At { DISTANCE($at_m) } { FIXED($read_v, digits: 1) } V under load meant { FIXED($truly_v, digits: 1) } V resting, and you noted
    which it was.
pulling_missed =
    At { DISTANCE($at_m) } you noted { FIXED($read_v, digits: 1) } V as resting while the motor pulled. Resting, the pack had { FIXED($truly_v, digits: 1) }
    V.
pulling_untried =
    You read no volts under load. At { DISTANCE($at_m) } they would have shown { FIXED($read_v, digits: 1) } V for { FIXED($truly_v, digits: 1) }
    V resting.
half_way_title = Half the energy is not half the distance
half_way_met = The ride out used { PERCENT($out) } of your energy, the same road home { PERCENT($home) }. You got home.
half_way_missed =
    The ride out used { PERCENT($out) } of your energy, and the same road home needed more than you had left.
half_way_untried = You ended before you were home. The ride out used { PERCENT($out) } of your energy so far.
last_step_title = The gauge’s last step
last_step_met =
    Its last bar came on at { DISTANCE($at_m) }, with { PERCENT($left) } of the energy left, and you noted it.
last_step_missed =
    Its last bar came on at { DISTANCE($at_m) }, with { PERCENT($left) } of the energy left. You didn’t note it, and the
    last bar is the one you most want to know.
last_step_untried = It never came down to its last bar.
enough_title = Enough is enough
enough_met =
    Your { FIXED($noted) } entries gave the range to ±{ DISTANCE($all_m) }; three of them alone, to ±{ DISTANCE($few_m) }.
enough_missed =
    Your { FIXED($noted) } entries gave the range to ±{ DISTANCE($all_m) }. Three of them alone gave ±{ DISTANCE($few_m) }:
    the others cost you stops and added next to nothing.
enough_untried = Too few entries to see which of them were needed.

## Slips

hasty =
    { FIXED($read_v, digits: 1) } V at { DISTANCE($at_m) }, read { FIXED($waited_s) } s after stopping instead of settled ({ FIXED($truly_v, digits: 1) }
    V)
mistaken = { FIXED($read_v, digits: 1) } V at { DISTANCE($at_m) }, noted as resting while it pulled
forgot_start = no resting volts before the first metre ({ FIXED($truly_v, digits: 1) } V)
forgot_turn = no resting volts at the turn ({ FIXED($truly_v, digits: 1) } V)
forgot_end = no volts and trip meter at the end ({ FIXED($truly_v, digits: 1) } V)
