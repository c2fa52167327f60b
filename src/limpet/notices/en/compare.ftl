### What a comparison says. The heart of it stands between asterisks.

compare_less_energy =
    { FIRST($which) } uses *{ PERCENT($share) } less energy* { PER_DISTANCE() } ({ PERCENT($low) } to { PERCENT($high) }).
compare_less_range = { FIRST($which) } goes *{ PERCENT($share) } less far* ({ PERCENT($low) } to { PERCENT($high) }).
compare_less_kept =
    { FIRST($which) } has kept *{ PERCENT($share) } less* of its capacity since new ({ PERCENT($low) } to { PERCENT($high) }).
compare_none = *No clear difference.* Rides like these could only show one of about { PERCENT($seen) } or more.
compare_found = Before adjusting for conditions { SIDE($which) } had { PERCENT($share) } less.
compare_runs =
    { $runs ->
        [one] 1 more ride
       *[other] { FIXED($runs, digits: 0) } more rides
    } of each would show { PERCENT($wanted) }, in the order { $order }.
compare_many =
    With rides like these it takes { $needed } of each to show { PERCENT($wanted) }. Ridden alike, on one route with one meter and
    in turns ({ $order }), { $runs } of each would show { PERCENT($seen) }.
compare_never =
    More rides like these can’t show { PERCENT($wanted) }: the readings and corrections aren’t precise enough. Ridden alike, on
    one route with one meter and in turns ({ $order }), { $runs } of each would show { PERCENT($seen) }.
compare_same = “{ $title }” is on both sides. Choose another test for one of them.
compare_too_few = Choose a test for each side: a comparison needs two.
compare_too_many =
    Choose fewer: { $count } tests on one side are more than the { $most } that can be compared at once.
compare_assisted =
    “{ $assisted }” was ridden with help from legs and “{ $throttle }” without. How much they gave is not known, so the two can’t
    be compared. Enter the watts on its sheet, or compare what legs give.
compare_legs_unknown =
    Legs helped in “{ $title }”, and nobody noted how much. What they give from ride to ride is in the interval. Enter the watts
    on the sheet to adjust for it.
compare_legs_carried =
    Legs helped in “{ $title }” with about { FIXED($watts, digits: 0) } W, as its rider noted. The comparison adjusts for that,
    give or take a quarter.
compare_no_figure = “{ $title }” shows nothing that the others show too. Enter readings for it first.
compare_single =
    One ride each. How much rides vary from one to the next is assumed, and is in the interval.
compare_single_learned =
    One ride each. How much rides vary is in the interval, as { $runs } earlier rides show it.
compare_order =
    All rides of one side came before those of the other, so weather or a tiring pack could explain it. Take turns: A B B A.
compare_ends = They ended differently; both are worked out to cut-off.
compare_unmetered =
    No energy meter: energy is estimated from volts, gauge or label. What both sides share of that error cancels out.
compare_packs = The packs are different too, so this compares vehicle and pack together.
compare_vehicles = The vehicles are different too, so this compares vehicle and pack together.
compare_riders = The riders are different, and how they ride is part of the result.
compare_differs =
    They differ in more than the question: { $names } alone would change it by over { PERCENT($share) }.
compare_no_speed = The speed of “{ $title }” isn’t known, so it isn’t adjusted for.
season_less_range =
    At about { SPEED($speed_mps) } *{ STEP($step_c) } colder cost { PERCENT($share) } of the range* ({ PERCENT($low) } to
    { PERCENT($high) }).
season_more_range =
    At about { SPEED($speed_mps) } it went *{ PERCENT($share) } further when { STEP($step_c) } colder* ({ PERCENT($low) } to
    { PERCENT($high) }). Something else changed with the season.
season_more_energy =
    At about { SPEED($speed_mps) } *{ STEP($step_c) } colder uses { PERCENT($share) } more energy* ({ PERCENT($low) } to
    { PERCENT($high) }).
season_less_energy =
    At about { SPEED($speed_mps) } it used *{ PERCENT($share) } less when { STEP($step_c) } colder* ({ PERCENT($low) } to
    { PERCENT($high) }). Something else changed with the season.
season_none =
    At about { SPEED($speed_mps) } *no clear difference*: these rides could only show one of about { PERCENT($seen) } for
    { STEP($step_c) }.
season_too_few =
    At about { SPEED($speed_mps) } { $tests ->
        [one] there is only 1 test
       *[other] all { FIXED($tests, digits: 0) } tests were ridden at one temperature
    }. Ride it again in another season.
season_aged =
    At about { SPEED($speed_mps) } the tests are over a year apart, so the pack’s own ageing is part of the difference.
compare_pack_changed =
    “{ $name }” has a different label in the two tests: it was changed in between, or one label is mistyped. Correct the sheet,
    or give the new pack a name of its own.
compare_clocks =
    By the clocks “{ $title }” was ridden before “{ $other }”, so A is the later state of the pack. If that is wrong, correct
    the time on its sheet.
compare_one_rider = The sheets don’t say who rode; one rider is assumed.
